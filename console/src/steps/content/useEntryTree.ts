import { computed, type Ref, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { within } from '@/logic/entries'
import type { TreeRow } from '@/parts/rowTree'

const MANY = 200 // entries of a package from which on its folders begin shut

export interface EntryNode extends TreeRow<EntryNode> {
  row: Schemas['Entry']
}

/** A package's entries as a tree in which folders are chosen through what is in them. */
export function useEntryTree(
  given: { rows: Schemas['Entry'][]; all: Schemas['Entry'][] },
  chosen: Ref<string[]>,
) {
  /** The folders that are shut: of a large package all, at first. */
  const shut = ref<string[]>([])
  watch(
    () => given.all.length,
    (count) => {
      if (count > MANY)
        shut.value = given.all
          .filter((row) => row.kind === 'folder' && row.depth === 0)
          .map((row) => row.id)
    },
    { immediate: true },
  )
  const picked = computed(() => new Set(chosen.value))
  /** The rows as a tree: each below the folder that holds it. */
  const nodes = computed(() => {
    const top: EntryNode[] = []
    const folders = new Map<number, EntryNode[]>()
    for (const row of given.rows) {
      const node: EntryNode = { key: row.id, row }
      if (row.kind === 'folder') folders.set(row.position, (node.children = []))
      ;(folders.get(row.parent) ?? top).push(node)
    }
    return top
  })
  const members = computed(
    () =>
      new Map(
        given.rows
          .filter((row) => row.kind === 'folder')
          .map((row) => [row.position, within(given.rows, row)]),
      ),
  )
  function whole(row: Schemas['Entry']): 'all' | 'some' | 'none' {
    const inside = members.value.get(row.position) ?? []
    const count = inside.filter((each) => picked.value.has(each.id)).length
    return count === 0 ? 'none' : count === inside.length ? 'all' : 'some'
  }
  function toggle(row: Schemas['Entry'], on: boolean) {
    const ids =
      row.kind === 'folder'
        ? (members.value.get(row.position) ?? []).map((each) => each.id)
        : [row.id]
    const next = new Set(chosen.value)
    for (const id of ids)
      if (on) next.add(id)
      else next.delete(id)
    chosen.value = [...next]
  }
  const barred = (row: Schemas['Entry']) =>
    row.blocked || (row.kind === 'folder' && !members.value.get(row.position)?.length)
  const state = (row: Schemas['Entry']) =>
    row.kind === 'folder' ? whole(row) : picked.value.has(row.id) ? 'all' : 'none'
  const flip = (row: Schemas['Entry']) => !barred(row) && toggle(row, state(row) !== 'all')
  return { shut, nodes, barred, state, flip }
}
