import { useInfiniteQuery, useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { answered, api } from '@/api/client'
import { t } from '@/words'
import { agreementQuery } from './queries'

const DAY_MS = 86_400_000

/** How much of a pairing agrees, in percent; 100 only where all of it does. */
export const share = (row: { agree: number; cells: number }) =>
  row.cells
    ? row.agree === row.cells
      ? 100
      : Math.min(99, Math.floor((100 * row.agree) / row.cells))
    : null

/** For how many whole days something has been open. */
export const days = (since: string | null) =>
  since ? Math.floor((Date.now() - Date.parse(since)) / DAY_MS) : null

export const age = (since: string | null) => {
  const count = days(since)
  return count === null
    ? ''
    : count === 0
      ? t('reconcile.agreement.since_today')
      : t('reconcile.agreement.for', { day: t('count.days', count) })
}

/** All pairings that fit what is asked for, what they come to together, and comparing them. */
export function useAgreement() {
  const route = useRoute()
  const client = useQueryClient()
  const open = computed(() => route.query.open === 'true')
  const words = ref('')
  const list = useInfiniteQuery(
    computed(() =>
      agreementQuery({
        ...(open.value ? { open: 'true' } : {}),
        ...(words.value.trim() ? { q: words.value.trim() } : {}),
      }),
    ),
  )
  const rows = computed(() => list.data.value?.pages.flatMap((page) => page.results) ?? [])
  const total = computed(() =>
    rows.value.reduce(
      (sum, row) => ({
        cells: sum.cells + row.cells,
        agree: sum.agree + row.agree,
        urgent: sum.urgent + row.urgent,
      }),
      { cells: 0, agree: 0, urgent: 0 },
    ),
  )
  const compare = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/agreement')),
    onSuccess: () => client.invalidateQueries({ queryKey: ['agreement'] }),
  })
  const busy = computed(() =>
    rows.value.some((row) => ['waiting', 'comparing'].includes(row.standing)),
  )
  return { open, words, list, rows, total, compare, busy }
}
