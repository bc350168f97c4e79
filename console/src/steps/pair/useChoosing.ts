import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, ref, type Ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import { consentQuery, coursesQuery, shellsQuery, titlesQuery } from './queries'

type Way = 'course' | 'title' | 'copy_of' | 'section_of'
const courseBy = (way: Way, id: string): Pick<Schemas['NewPairingRequest'], Way> => ({ [way]: id })

/** Which course, or which title of which to make one, a shell is paired with. */
export function useChoosing(shellId: Ref<string>) {
  const router = useRouter()
  const client = useQueryClient()
  const words = ref('')
  const mine = ref(false)
  const name = ref('')
  const chosen = ref<{ way: Way; id: string; words: string; share: boolean }>()
  const { data: shells } = useQuery(shellsQuery())
  const about = computed(() => shells.value?.results.find((each) => each.id === shellId.value))
  const { data: consent } = useQuery(computed(() => consentQuery(shellId.value)))
  const { data: courses, ...reading } = useQuery(
    computed(() => coursesQuery(shellId.value, words.value.trim(), mine.value)),
  )
  // The list is there at once; a course that was just made at the publisher comes with the second reading.
  const {
    data: again,
    isFetching: asking,
    isSuccess: read,
  } = useQuery({
    queryKey: ['read courses again'],
    queryFn: () =>
      answered(api.GET('/api/v1/courses', { params: { query: { refresh: true, limit: 1 } } })),
    staleTime: 60_000,
  })
  watch(read, (now) => now && client.invalidateQueries({ queryKey: ['courses'] }))
  const { data: titles } = useQuery(computed(() => titlesQuery(words.value.trim())))
  const pair = useMutation({
    mutationFn: ({ way, id, share }: { way: Way; id: string; share?: boolean }) =>
      answered(
        api.POST('/api/v1/pairings', {
          body: {
            shell: shellId.value,
            ...courseBy(way, id),
            agree: true,
            share: share ?? false,
            name: way === 'course' ? '' : name.value.trim(),
          },
        }),
      ),
    onSuccess: async (pairing) => {
      await client.invalidateQueries({ queryKey: ['shells'] })
      await router.push({ name: 'pair', params: { pairing: pairing.id } })
    },
  })

  /** Pair at once where somebody agreed before; else show first what is read and written. */
  async function choose(way: Way, id: string, what: string, share = false) {
    pair.reset()
    if (consent.value?.agreed && way === 'course') return pair.mutate({ way, id, share })
    chosen.value = { way, id, words: what, share }
    await nextTick()
    document.getElementById('agree')?.focus()
  }
  return {
    ...{ about, words, mine, name, consent, courses, reading, again, asking, titles },
    ...{ chosen, choose, pair },
  }
}
