import { t } from '@/words'

/** What the kinds of findings are called for people, and how loud they are drawn. */

export interface Kind {
  label: string
  /** One letter for the matrix, so that colour is never alone. */
  mark: string
  tone: 'quiet' | 'left' | 'right' | 'alarm' | 'both'
}

const KINDS: Record<string, Kind> = {
  agree: { label: t('logic.kinds.agree'), mark: '', tone: 'quiet' },
  unsent: { label: t('logic.kinds.not_sent'), mark: 'u', tone: 'left' },
  behind: { label: t('logic.kinds.behind'), mark: 'b', tone: 'left' },
  cleared: { label: t('logic.kinds.emptied'), mark: 'c', tone: 'left' },
  held: { label: t('logic.kinds.held'), mark: 'h', tone: 'both' },
  refused: { label: t('logic.kinds.refused'), mark: 'r', tone: 'alarm' },
  edited: { label: t('logic.kinds.typed_over'), mark: 'e', tone: 'right' },
  gradebook_only: { label: t('logic.kinds.gradebook_only'), mark: 'g', tone: 'right' },
  withdrawn: { label: t('logic.kinds.taken_back'), mark: 'w', tone: 'right' },
  unread: { label: t('logic.kinds.not_read'), mark: '?', tone: 'both' },
  clash: { label: t('logic.kinds.clash'), mark: '!', tone: 'alarm' },
  differ: { label: t('logic.kinds.differ'), mark: 'd', tone: 'alarm' },
  column_missing: { label: t('logic.kinds.column_gone'), mark: '', tone: 'alarm' },
  column_extra: { label: t('logic.kinds.column_of_your_own'), mark: '', tone: 'right' },
  points_differ: { label: t('logic.kinds.points_differ'), mark: '', tone: 'alarm' },
  points_missing: { label: t('logic.kinds.no_points'), mark: '', tone: 'left' },
  due_differs: { label: t('logic.kinds.due_dates_differ'), mark: '', tone: 'left' },
  category_differs: { label: t('logic.kinds.categories_differ'), mark: '', tone: 'both' },
  never_opened: { label: t('logic.kinds.never_opened'), mark: '', tone: 'left' },
  title_ambiguous: { label: t('logic.kinds.two_of_one_title'), mark: '', tone: 'alarm' },
  title_differs: { label: t('logic.kinds.titles_differ'), mark: '', tone: 'both' },
  item_gone: { label: t('logic.kinds.item_gone'), mark: '', tone: 'alarm' },
  publisher_only: { label: t('logic.kinds.at_the_publisher_only'), mark: '', tone: 'left' },
  shell_only: { label: t('logic.kinds.in_the_shell_only'), mark: '', tone: 'right' },
  ambiguous: { label: t('logic.kinds.not_clear_who'), mark: '', tone: 'alarm' },
}

/** What a group of findings is called: its kind, and what explains it where one change does. */
export const groupLabel = (kind: string, because: string) =>
  because
    ? t('logic.kinds.as', { label: kindOf(kind).label, label2: kindOf(because).label })
    : kindOf(kind).label

const LOUDEST = ['alarm', 'left', 'right', 'both', 'quiet']

/** Counts by kind, the loudest kinds first. */
export const loudestFirst = (counts: Record<string, number>) =>
  Object.entries(counts).sort(
    ([a], [b]) => LOUDEST.indexOf(kindOf(a).tone) - LOUDEST.indexOf(kindOf(b).tone),
  )

export function kindOf(code: string): Kind {
  return KINDS[code] ?? { label: code.replaceAll('_', ' '), mark: '?', tone: 'both' }
}
