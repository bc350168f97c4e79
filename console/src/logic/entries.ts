import { t } from '@/words'
/** What the entries of an import are called, how they are counted and which are meant. */

export interface Row {
  id: string
  position: number
  parent: number
  depth: number
  kind: string
  shown_title: string
  state: string
  blocked: boolean
  trouble: string
  naming: string
}

const KINDS: Record<string, string> = {
  folder: t('logic.entries.folder'),
  page: t('logic.entries.page'),
  file: t('logic.entries.file'),
  web_link: t('logic.entries.web_link'),
  discussion: t('logic.entries.discussion'),
  assignment: t('logic.entries.assignment'),
  lti_link: t('logic.entries.homework_link'),
  assessment: t('logic.entries.quiz'),
  question_bank: t('logic.entries.question_bank'),
  other: t('logic.entries.unknown'),
}
const STATES: Record<string, string> = {
  made: t('logic.entries.in_the_shell'),
  updated: t('logic.entries.in_the_shell_updated'),
  same: t('logic.entries.in_the_shell'),
  kept: t('logic.entries.in_the_shell_changed_there'),
  changed: t('logic.entries.in_the_shell_newer_here'),
  failed: t('logic.entries.not_done'),
  left_out: t('logic.entries.left_out'),
  removed: t('logic.entries.taken_out_again'),
  waiting: t('logic.entries.on_its_way'),
  untouched: '',
}
const IN_SHELL = ['made', 'updated', 'same', 'kept', 'changed']

export const kindName = (kind: string) => KINDS[kind] ?? kind
export const stateName = (row: Row) =>
  row.state === 'untouched' && row.blocked
    ? t('logic.entries.cannot_come_in')
    : (STATES[row.state] ?? row.state)
export const isInShell = (row: Row) => IN_SHELL.includes(row.state)
export const needsLook = (row: Row) =>
  row.trouble !== '' ||
  row.naming === 'proposed' ||
  row.naming === 'told_apart' ||
  row.state === 'failed'

/** Count entries by kind, in the order in which they first appear; folders are no content. */
export function kindCounts(rows: Row[]): [string, number][] {
  const counts = new Map<string, number>()
  for (const row of rows)
    if (row.kind !== 'folder') counts.set(row.kind, (counts.get(row.kind) ?? 0) + 1)
  return [...counts]
}

/** The three numbers of the figure: only in the package, standing in the shell, and what cannot come in. */
export function sides(rows: Row[]) {
  const content = rows.filter((row) => row.kind !== 'folder')
  return {
    left: content.filter((row) => !isInShell(row) && !row.blocked).length,
    both: content.filter(isInShell).length,
    barred: content.filter((row) => row.blocked && !isInShell(row)).length,
  }
}

/** Mark what an earlier import, or a placement, has put into the shell: the plan for everything tells. */
export function recognised<T extends Row>(
  rows: T[],
  plan?: { entries: { id?: string; action?: string }[] | Record<string, unknown>[] },
): T[] {
  const actions = new Map(
    (plan?.entries ?? []).map((each) => [String(each.id), String(each.action)]),
  )
  const state: Record<string, string> = { same: 'same', keep: 'kept', update: 'changed' }
  return rows.map((row) =>
    row.state === 'untouched' && state[actions.get(row.id) ?? '']
      ? { ...row, state: state[actions.get(row.id)!] }
      : row,
  )
}

export interface View {
  kind?: string
  words?: string
  look?: string
}

/** Keep the rows of a view, and the folders around them. */
export function viewed<T extends Row>(rows: T[], view: View): T[] {
  const words = (view.words ?? '').toLowerCase().split(/\s+/).filter(Boolean)
  if (!view.kind && !words.length && !view.look) return rows
  const byPosition = new Map(rows.map((row) => [row.position, row]))
  const kept = new Set<number>()
  for (const row of rows) {
    if (row.kind === 'folder' && !words.length) continue
    if (view.kind && row.kind !== view.kind) continue
    if (view.look === 'attention' && !needsLook(row)) continue
    if (view.look === 'package' && (isInShell(row) || row.blocked)) continue
    if (view.look === 'shell' && !isInShell(row)) continue
    if (view.look === 'barred' && !(row.blocked && !isInShell(row))) continue
    if (!words.every((word) => row.shown_title.toLowerCase().includes(word))) continue
    for (let at: T | undefined = row; at && !kept.has(at.position); at = byPosition.get(at.parent))
      kept.add(at.position)
  }
  return rows.filter((row) => kept.has(row.position))
}

/** All that is in a folder, however deep, and can be brought in. */
export function within<T extends Row>(rows: T[], folder: T): T[] {
  const inside = new Set([folder.position])
  return rows.filter((row) => {
    if (!inside.has(row.parent)) return false
    inside.add(row.position)
    return row.kind !== 'folder' && !row.blocked
  })
}
