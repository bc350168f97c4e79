import { computed, type Ref } from 'vue'
import { placeable, type Row, isInShell } from '@/logic/catalogue'

/** The ids that a row chooses: its own item, or every item of its unit that can be placed. */
export const idsOf = (row: Row): string[] =>
  row.kind === 'head' ? row.ids : placeable(row.item) ? [row.item.id] : []

/** Choose rows of the catalogue: one, a stretch, a unit, all; in the order in which they are chosen. */
export function useChoosing(chosen: Ref<string[]>, rows: Ref<Row[]>, single: () => boolean) {
  const picked = computed(() => new Set(chosen.value))
  const isOn = (row: Row) => idsOf(row).length > 0 && idsOf(row).every((id) => picked.value.has(id))
  const isPart = (row: Row) => !isOn(row) && idsOf(row).some((id) => picked.value.has(id))
  /** The sign before a row: it cannot be chosen, is chosen, in part, is in the shell, or none. */
  const mark = (row: Row) => {
    if (!idsOf(row).length) return '·'
    if (isOn(row)) return '●'
    if (isPart(row)) return '◐'
    return row.kind === 'item' && isInShell(row.item) ? '✓' : '○'
  }
  function set(wanted: string[], on: boolean) {
    if (single()) chosen.value = on ? wanted.slice(-1) : []
    else
      chosen.value = on
        ? [...chosen.value, ...wanted.filter((id) => !picked.value.has(id))]
        : chosen.value.filter((id) => !wanted.includes(id))
  }
  const toggle = (row: Row) => set(idsOf(row), !isOn(row))
  /** Choose what lies between two rows, both of them too. */
  function stretch(from: string, to: string) {
    const at = (key: string) => rows.value.findIndex((row) => row.key === key)
    const [one, other] = [at(from), at(to)].sort((a, b) => a - b)
    if (one === undefined || other === undefined || one < 0) return
    const between = rows.value.slice(one, other + 1)
    set(
      between.flatMap((row) => (row.kind === 'item' ? idsOf(row) : [])),
      true,
    )
  }
  const all = computed(() => rows.value.flatMap((row) => (row.kind === 'item' ? idsOf(row) : [])))
  const allOn = computed(
    () => all.value.length > 0 && all.value.every((id) => picked.value.has(id)),
  )
  return { isOn, isPart, mark, set, toggle, stretch, all, allOn }
}
