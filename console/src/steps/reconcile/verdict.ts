import type { Schemas } from '@/api/client'
import { t } from '@/words'

type Summary = Schemas['Comparison']['summary']
const TYPED = ['edited', 'gradebook_only', 'withdrawn'] // somebody's own doing, or the publisher's taking back

/** What a comparison comes to: how loud, in a sentence, and what to do next. */
export function verdictOf(summary: NonNullable<Summary>) {
  const agree = summary.kinds.agree ?? 0
  const apart = summary.cells - agree
  const urgent = summary.urgent ?? 0
  const root = summary.roots?.[0]
  return {
    agree,
    root,
    safe: summary.safe ?? 0,
    level: urgent ? 'trouble' : apart ? 'waits' : 'well',
    sentence: apart
      ? t('reconcile.comparison_verdict.of_not_agree', {
          apart,
          do: `${summary.cells} ${
            summary.cells === 1
              ? t('reconcile.comparison_verdict.score_does')
              : t('reconcile.comparison_verdict.scores_do')
          }`,
        })
      : t('reconcile.comparison_verdict.all_scores_agree', { cells: summary.cells }),
    advice: adviceOf(summary, apart),
  }
}

function adviceOf(summary: NonNullable<Summary>, apart: number) {
  const { open, roots = [] } = summary
  const explained = roots.reduce((sum, each) => sum + each.cells, 0)
  const typed = TYPED.reduce((sum, kind) => sum + (open?.[kind] ?? 0), 0) - explained
  const safe = summary.safe ?? 0
  const unread = open?.unread ?? 0
  const rest = (summary.urgent ?? 0) - safe - unread
  const said = [
    roots[0] && causeOf(roots, explained === apart),
    safe && t('reconcile.comparison_verdict.safe_to_send_now_nobody', safe),
    rest > 0 && t('reconcile.comparison_verdict.your_word_below_by_cause', rest),
    unread && t('reconcile.comparison_verdict.not_read_at_the_publisher', unread),
    typed > 0 && t('reconcile.comparison_verdict.as_somebody_typed_or_left', typed),
    open?.held && t('reconcile.comparison_verdict.held_on_purpose', { held: open.held }),
    summary.new &&
      t('reconcile.comparison_verdict.new_since_the_last_comparison', { new: summary.new }),
    summary.kept && t('reconcile.comparison_verdict.kept_as_they_are', { kept: summary.kept }),
  ].filter(Boolean)
  return said.length
    ? `${said.join('; ')}.`
    : t('reconcile.comparison_verdict.nothing_is_asked_of_you')
}

/** One cause named for a whole column: its points differ. */
function causeOf(roots: NonNullable<NonNullable<Summary>['roots']>, all: boolean) {
  const { item, gradebook, publisher } = roots[0]!
  return t('reconcile.comparison_verdict.of_them_have_counts_points', {
    explained: all
      ? t('reconcile.comparison_verdict.all')
      : roots.reduce((sum, each) => sum + each.cells, 0),
    causes:
      roots.length === 1
        ? t('reconcile.comparison_verdict.one_cause')
        : t('reconcile.comparison_verdict.causes', { roots: roots.length }),
    ...{ item, gradebook, publisher },
  })
}
