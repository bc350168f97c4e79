import { t } from '@/words'
import type { Schemas } from '@/api/client'

/** What the catalogue is narrowed to; empty is everything. */
export interface Filters {
  words: string
  kind: string
  unit: string
  category: string
  subject: string
  date: '' | 'with' | 'without'
  placed: '' | 'yes' | 'no'
  changed: boolean
}

export const NO_FILTERS: Filters = {
  words: '',
  kind: '',
  unit: '',
  category: '',
  subject: '',
  date: '',
  placed: '',
  changed: false,
}

export type Row =
  | { key: string; kind: 'head'; title: string; ids: string[] }
  | { key: string; kind: 'item'; item: Schemas['Item'] }

export const PLACEABLE = ['graded', 'practice', 'link']
export const isInShell = (item: Schemas['Item']) => item.placed === 'placed'
export const placeable = (item: Schemas['Item']) => PLACEABLE.includes(item.kind)

/** What an item would become when it is placed. */
export function becomesKey(
  item: Schemas['Item'],
): 'import' | 'link' | 'pointless' | 'column' | 'undated' {
  if (!placeable(item)) return 'import'
  if (item.kind !== 'graded') return 'link'
  if (!item.points || Number(item.points) <= 0) return 'pointless'
  return item.due_at ? 'column' : 'undated'
}

/** Say it in a few words. */
export const becomes = (item: Schemas['Item']) => t(`becomes.${becomesKey(item)}`)

export function narrowed(
  items: readonly Schemas['Item'][],
  filters: Filters,
  changed: ReadonlySet<string>,
): Schemas['Item'][] {
  const words = filters.words.trim().toLocaleLowerCase()
  return items.filter(
    (item) =>
      (!words ||
        item.shown_title.toLocaleLowerCase().includes(words) ||
        item.unit.toLocaleLowerCase().includes(words)) &&
      (!filters.kind || item.kind === filters.kind) &&
      (!filters.unit || item.unit === filters.unit) &&
      (!filters.category || item.category === filters.category) &&
      (!filters.subject || item.subjects.includes(filters.subject)) &&
      (!filters.date || (filters.date === 'with') === Boolean(item.due_at)) &&
      (!filters.placed || (filters.placed === 'yes') === isInShell(item)) &&
      (!filters.changed || changed.has(item.title)),
  )
}

/**
 * Lay items out in rows: graded ones first, then the rest, each by unit under a heading that
 * chooses the whole unit.
 */
export function rowsOf(items: readonly Schemas['Item'][]): Row[] {
  const rows: Row[] = []
  for (const group of ['graded', 'other'] as const) {
    const units = new Map<string, Schemas['Item'][]>()
    for (const item of items)
      if ((item.kind === 'graded') === (group === 'graded'))
        units.set(item.unit, [...(units.get(item.unit) ?? []), item])
    for (const [unit, row] of units) {
      const title =
        unit || t(group === 'graded' ? 'catalogue.without_unit' : 'catalogue.the_course')
      rows.push({
        key: `${group}-${unit}`,
        kind: 'head',
        title: `${title} · ${t(`catalogue.${group}`)}`,
        ids: row.filter(placeable).map((item) => item.id),
      })
      for (const item of row) rows.push({ key: item.id, kind: 'item', item })
    }
  }
  return rows
}

/** A node of a tree: what the library's tree is given. */
export interface TreeNode {
  key: string
  label: string
  children?: TreeNode[]
}

/** Put each row below the heading that comes before it. */
export function treeOf(rows: readonly Row[]): TreeNode[] {
  const tree: TreeNode[] = []
  for (const row of rows)
    if (row.kind === 'head') tree.push({ key: row.key, label: row.title, children: [] })
    else tree.at(-1)?.children?.push({ key: row.key, label: row.item.shown_title })
  return tree
}
