import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { computed, type Ref, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { needsLook, recognised, viewed } from '@/logic/entries'
import { useWhole } from '@/parts/useWhole'
import { entriesQuery, itemsQuery, recognisedQuery } from './queries'

const PAUSE_MS = 250 // after a key, before the list follows
const asText = (value: unknown) => (typeof value === 'string' ? value : undefined)

/** The entries of an import, those of them that the address asks for, and the one that is open. */
export function useEntries(pairing: Ref<string>, made: Ref<string>) {
  const route = useRoute()
  const router = useRouter()
  const entries = useQuery(computed(() => entriesQuery(pairing.value, made.value)))
  const known = useQuery(
    computed(() => recognisedQuery(pairing.value, made.value, Boolean(entries.data.value?.length))),
  )
  const rows = computed(() => recognised(entries.data.value ?? [], known.data.value))
  const items = useInfiniteQuery(computed(() => itemsQuery(pairing.value, { kind: 'graded' })))
  useWhole(items)
  const ask = (change: Record<string, string | undefined>) => ({
    query: { ...route.query, ...change },
  })
  const view = computed(() => ({
    kind: asText(route.query.kind),
    words: asText(route.query.words),
    look: asText(route.query.look),
  }))
  const words = ref(view.value.words ?? '')
  let typing: ReturnType<typeof setTimeout> | undefined
  watch(words, (now) => {
    clearTimeout(typing)
    typing = setTimeout(() => router.replace(ask({ words: now || undefined })), PAUSE_MS)
  })
  return {
    entries,
    rows,
    graded: computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? []),
    view,
    words,
    shown: computed(() => viewed(rows.value, view.value)),
    review: computed(
      () => rows.value.filter((row) => row.group === 'review' && row.kind === 'folder').length,
    ),
    attention: computed(() => rows.value.filter(needsLook).length),
    entry: computed(() => rows.value.find((row) => row.id === route.query.entry)),
    /** Open an entry beside the tree; nothing: close it. */
    look: (which?: string) => router.replace(ask({ entry: which })),
    /** The address at which one way of narrowing the list is turned on, or off where it is on. */
    toggle: (name: 'kind' | 'look', value: string) =>
      ask({ [name]: route.query[name] === value ? undefined : value }),
  }
}
