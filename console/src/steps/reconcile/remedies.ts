import { t } from '@/words'
import type { Schemas } from '@/api/client'

/** What a remedy is called on its button; one short word each, the same everywhere. */
const WORDS: Record<string, string> = {
  send: t('reconcile.remedies.send_the_publishers'),
  restore: t('reconcile.remedies.restore_the_publishers'),
  clear: t('reconcile.remedies.empty_the_cell'),
  keep: t('reconcile.remedies.keep_the_gradebooks'),
  leave: t('reconcile.remedies.leave_as_it_is'),
  put_back: t('reconcile.remedies.put_back_in_the_gradebook'),
  claim: t('reconcile.remedies.it_is_this_column'),
  make_again: t('reconcile.remedies.make_the_column_again'),
  match: t('reconcile.remedies.the_same_person'),
  tie: t('reconcile.remedies.it_is_this_item'),
}
export const remedyWords = (remedy: string) => WORDS[remedy] ?? remedy.replaceAll('_', ' ')

/** Remedies by which a person names one of the candidates, never taken for a whole group. */
export const NAMES_ONE = ['match', 'tie']
const WRITES_SCORE = ['send', 'restore', 'clear']

export interface Choice {
  finding: number
  remedy: string
  candidate: string
}

/** What is to be settled, as the service is asked. */
export interface Wanted {
  safe: boolean
  kinds: Record<string, string>
  findings: Choice[]
}
export const nothing = (): Wanted => ({ safe: false, kinds: {}, findings: [] })

/**
 * The remedies by which a whole group can be settled: those that all its rows offer, without what
 * needs a person's choice of one, or would write over a score where the publisher's was not read.
 */
export function groupRemedies(rows: readonly Schemas['Finding'][]): string[] {
  const first = rows[0]
  if (!first || rows.length < 2) return []
  const unread = rows.some((row) => row.read === false && row.gradebook !== null)
  return first.remedies.filter(
    (remedy) =>
      !NAMES_ONE.includes(remedy) &&
      !(unread && WRITES_SCORE.includes(remedy)) &&
      rows.every((row) => row.remedies.includes(remedy)),
  )
}
