import { useInfiniteQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { STATES } from '@/logic/relay'
import { holds } from '@/logic/search'

/** The scores of a pairing, of one state and with some words where the address names them. */
export function useScores(pairing: Ref<string>) {
  const route = useRoute()
  const router = useRouter()
  const state = computed(() => STATES.find((each) => each === route.query.state))
  const words = computed({
    get: () => String(route.query.q ?? ''),
    set: (q) => router.replace({ query: { ...route.query, q: q || undefined } }),
  })
  const choose = (wanted: string) =>
    router.replace({
      query: { ...route.query, state: wanted === state.value ? undefined : wanted },
    })
  const { data, fetchNextPage, hasNextPage, isFetchingNextPage, ...reading } = useInfiniteQuery({
    queryKey: computed(() => ['pairing', pairing.value, 'relay', 'scores', state.value]),
    queryFn: ({ pageParam }) =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/scores', {
          params: {
            path: { pairing_pk: pairing.value },
            query: {
              limit: 50,
              cursor: pageParam || undefined,
              state: state.value && [state.value],
            },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) =>
      last.next ? (new URL(last.next).searchParams.get('cursor') ?? undefined) : undefined,
    refetchInterval: 4_000,
  })
  const rows = computed(() =>
    (data.value?.pages.flatMap((page) => page.results) ?? []).filter((row) =>
      holds(`${row.learner} ${row.item}`, words.value),
    ),
  )
  return { state, words, choose, rows, reading, fetchNextPage, hasNextPage, isFetchingNextPage }
}
