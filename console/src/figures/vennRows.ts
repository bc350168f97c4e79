import type { RouteLocationRaw } from 'vue-router'
import type { Schemas } from '@/api/client'
import { t } from '@/words'

/** Only at the publisher, on both sides, only in the shell. */
type Sides = readonly [RouteLocationRaw, RouteLocationRaw, RouteLocationRaw]

/** The rows of the two circles: each number with the page that shows what it counts. */
export function rowsOf(pairing: string, venn: Schemas['Venn']) {
  const to = (name: string, query: Record<string, string> = {}): RouteLocationRaw => ({
    name,
    params: { pairing },
    query,
  })
  const links: Record<'items' | 'columns' | 'scores', Sides> = {
    items: [to('content', { placed: 'no' }), to('content', { placed: 'yes' }), to('deploy')],
    columns: [
      to('content', { placed: 'no', kind: 'graded' }),
      to('content', { placed: 'yes', kind: 'graded' }),
      to('reconcile', { kind: 'column_extra' }),
    ],
    scores: [
      to('reconcile', { scope: 'cell', side: 'left' }),
      to('reconcile', { scope: 'cell', side: 'both' }),
      to('reconcile', { scope: 'cell', side: 'right' }),
    ],
  }
  const differ = venn.scores_differ[0] ?? 0
  return (['items', 'columns', 'scores'] as const).map((name) => ({
    name,
    counts: venn[name],
    links: links[name],
    note: name === 'scores' && differ ? t('count.do_not_agree', differ) : '',
  }))
}
