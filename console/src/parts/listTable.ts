import type { VNodeChild } from 'vue'

/** One column of a list: what its cells say, and by what rows are sorted. */
export interface Column<Row> {
  key: string
  title: string
  /** The title is for screen readers only, as where a column holds buttons. */
  hidden?: boolean
  /** What a cell says where the table has no slot `cell-KEY` for it. */
  text?: (row: Row) => VNodeChild
  /** What rows are sorted by; without it the column does not sort. Nothing sorts last. */
  by?: (row: Row) => string | number | null | undefined
  number?: boolean
  width?: number
  minWidth?: number
  /** On a narrow screen this cell is the row's heading. */
  heading?: boolean
  /** Stays in sight while the others scroll. */
  fixed?: boolean
  /** Is left out of the narrow screen's card where this says so. */
  skipNarrow?: (row: Row) => boolean
}

export type Order = 'ascend' | 'descend' | false

/** By which column rows are sorted, and which way. */
export interface Sorted {
  key: string
  order: Order
}

const NEXT: Record<string, Order> = { false: 'ascend', ascend: 'descend', descend: false }

/** Which way a column is sorted. */
export const orderOf = (sorted: Sorted, key: string): Order =>
  sorted.key === key ? sorted.order : false

/** What a press on a column's title makes of the order: up, then down, then as it came. */
export const pressed = (sorted: Sorted, key: string): Sorted => ({
  key,
  order: NEXT[String(orderOf(sorted, key))] ?? false,
})

/** Compare two values as people expect it: numbers by size, words by the language, nothing last. */
export function compared(
  one: string | number | null | undefined,
  other: string | number | null | undefined,
  language: string,
): number {
  const empty = (each: typeof one) => each === null || each === undefined || each === ''
  if (empty(one) || empty(other)) return Number(empty(one)) - Number(empty(other))
  if (typeof one === 'number' && typeof other === 'number') return one - other
  return String(one).localeCompare(String(other), language, { numeric: true })
}

/** Return rows in the order of a column; a tie keeps the order that they came in. */
export function ordered<Row>(
  rows: readonly Row[],
  column: Column<Row> | undefined,
  order: Order,
  language: string,
): Row[] {
  if (!column?.by || !order) return [...rows]
  const by = column.by
  const turn = order === 'ascend' ? 1 : -1
  const empty = (each: Row) => by(each) === null || by(each) === undefined || by(each) === ''
  return [...rows].sort((a, b) =>
    // Nothing stays last, whichever way the column is sorted.
    empty(a) || empty(b)
      ? compared(by(a), by(b), language)
      : turn * compared(by(a), by(b), language),
  )
}
