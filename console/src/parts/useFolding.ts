import { computed, type Ref } from 'vue'
import type { TreeRow } from './rowTree'

/** A tree's nodes by their keys with their levels, from 1, and which of its folders are open. */
export function useFolding<Node extends TreeRow<Node>>(
  given: { nodes: Node[] },
  shut: Ref<string[]>,
) {
  const placed = computed(() => {
    const found = new Map<string, { node: Node; level: number }>()
    const walk = (nodes: readonly Node[], level: number) => {
      for (const node of nodes) {
        found.set(node.key, { node, level })
        walk(node.children ?? [], level + 1)
      }
    }
    walk(given.nodes, 1)
    return found
  })
  const folders = computed(() =>
    [...placed.value].flatMap(([key, { node }]) => (node.children ? [key] : [])),
  )
  const expanded = computed(() => {
    const folded = new Set(shut.value)
    return folders.value.filter((key) => !folded.has(key))
  })
  function unfold(keys: (string | number)[]) {
    const open = new Set(keys)
    shut.value = folders.value.filter((key) => !open.has(key))
  }
  const nodeOf = (key: string | number | undefined) => placed.value.get(String(key))
  return { nodeOf, expanded, unfold }
}
