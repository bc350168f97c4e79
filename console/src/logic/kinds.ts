/** What the kinds of findings are called for people, and how loud they are drawn. */

export interface Kind {
  label: string
  /** One letter for the matrix, so that colour never stands alone. */
  mark: string
  tone: 'quiet' | 'left' | 'right' | 'alarm' | 'both'
}

const KINDS: Record<string, Kind> = {
  agree: { label: 'agree', mark: '', tone: 'quiet' },
  unsent: { label: 'not sent', mark: 'u', tone: 'left' },
  behind: { label: 'behind', mark: 'b', tone: 'left' },
  cleared: { label: 'emptied', mark: 'c', tone: 'left' },
  held: { label: 'held', mark: 'h', tone: 'both' },
  refused: { label: 'refused', mark: 'r', tone: 'alarm' },
  edited: { label: 'typed over', mark: 'e', tone: 'right' },
  gradebook_only: { label: 'gradebook only', mark: 'g', tone: 'right' },
  withdrawn: { label: 'taken back', mark: 'w', tone: 'right' },
  unread: { label: 'not read', mark: '?', tone: 'both' },
  clash: { label: 'clash', mark: '!', tone: 'alarm' },
  differ: { label: 'differ', mark: 'd', tone: 'alarm' },
  column_missing: { label: 'column gone', mark: '', tone: 'alarm' },
  column_extra: { label: 'column of your own', mark: '', tone: 'right' },
  points_differ: { label: 'points differ', mark: '', tone: 'alarm' },
  points_missing: { label: 'no points', mark: '', tone: 'left' },
  due_differs: { label: 'due dates differ', mark: '', tone: 'left' },
  category_differs: { label: 'categories differ', mark: '', tone: 'both' },
  never_opened: { label: 'never opened', mark: '', tone: 'left' },
  title_ambiguous: { label: 'two of one title', mark: '', tone: 'alarm' },
  title_differs: { label: 'titles differ', mark: '', tone: 'both' },
  item_gone: { label: 'item gone', mark: '', tone: 'alarm' },
  publisher_only: { label: 'at the publisher only', mark: '', tone: 'left' },
  shell_only: { label: 'in the shell only', mark: '', tone: 'right' },
  ambiguous: { label: 'not clear who', mark: '', tone: 'alarm' },
}

/** What a group of findings is called: its kind, and what explains it where one change does. */
export const groupLabel = (kind: string, because: string) =>
  because ? `${kindOf(kind).label}, as ${kindOf(because).label}` : kindOf(kind).label

export function kindOf(code: string): Kind {
  return KINDS[code] ?? { label: code.replaceAll('_', ' '), mark: '?', tone: 'both' }
}
