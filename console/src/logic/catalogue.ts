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
export const stands = (item: Schemas['Item']) => item.placed === 'placed'
export const placeable = (item: Schemas['Item']) => PLACEABLE.includes(item.kind)

/** Say whether an item would become a column, and why not in a few words. */
export function becomes(item: Schemas['Item']): string {
  if (!placeable(item)) return 'comes with the import'
  if (item.kind !== 'graded') return 'a link, no column'
  if (!item.points || Number(item.points) <= 0) return 'a link: no points'
  return item.due_at ? 'a link and a column' : 'no date: you decide'
}

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
      (!filters.placed || (filters.placed === 'yes') === stands(item)) &&
      (!filters.changed || changed.has(item.title)),
  )
}

/** Lay items out in rows: graded ones first, then the rest, each by unit under a heading that chooses the whole unit. */
export function rowsOf(items: readonly Schemas['Item'][]): Row[] {
  const rows: Row[] = []
  for (const [name, members] of [
    ['Graded', items.filter((item) => item.kind === 'graded')],
    ['Practice, readings and links', items.filter((item) => item.kind !== 'graded')],
  ] as const) {
    const units = new Map<string, Schemas['Item'][]>()
    for (const item of members) units.set(item.unit, [...(units.get(item.unit) ?? []), item])
    for (const [unit, row] of units) {
      const title = unit || (name === 'Graded' ? 'Without a unit' : 'The course itself')
      rows.push({
        key: `${name}-${unit}`,
        kind: 'head',
        title: `${title} · ${name === 'Graded' ? 'graded' : 'other'}`,
        ids: row.filter(placeable).map((item) => item.id),
      })
      for (const item of row) rows.push({ key: item.id, kind: 'item', item })
    }
  }
  return rows
}
