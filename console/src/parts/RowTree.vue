<script setup lang="ts" generic="Node extends TreeRow<Node>">
import { NTree, type TreeOption } from 'naive-ui/es/tree'
import { ref, useId, type VNodeChild } from 'vue'
import type { RowFacts, TreeRow } from './rowTree'
import { useFolding } from './useFolding'
import { useTreeAria } from './useTreeAria'

/**
 * The library's tree with what it lacks: roles, names and states for assistive technology, and keys
 * that do more than move. What a row shows is its slot.
 */
const props = withDefaults(
  defineProps<{
    nodes: Node[]
    label: string
    /** Whether several rows can be chosen. */
    many?: boolean
    height?: string
    draggable?: boolean
    about: (node: Node) => RowFacts
    /** Do what a key does on the row that the arrows are on; say whether it does anything. */
    press: (event: KeyboardEvent, ahead: () => Node | undefined) => boolean
  }>(),
  { height: 'min(60vh, 34rem)' },
)
const emit = defineEmits<{ drag: [node: Node, event: DragEvent] }>()
const slots = defineSlots<{ default?: (given: { node: Node }) => VNodeChild }>()
/** The keys of the rows whose own rows are folded away. */
const shut = defineModel<string[]>('shut', { default: () => [] })

const { nodeOf, expanded, unfold } = useFolding(props, shut)
const root = ref<InstanceType<typeof NTree>>()
const { idOf, ahead, later } = useTreeAria(root, {
  id: useId(),
  label: () => props.label,
  many: () => props.many,
  drawn: () => [props.nodes, shut.value],
})
const nodeProps = ({ option }: { option: TreeOption }) => {
  const found = nodeOf(option.key)
  if (!found) return {}
  const { checked, selected, marks, on } = props.about(found.node)
  return {
    role: 'treeitem',
    id: idOf(found.node.key),
    'data-tree-key': found.node.key,
    'aria-level': found.level,
    'aria-expanded': found.node.children ? !shut.value.includes(found.node.key) : undefined,
    'aria-checked': checked,
    'aria-selected': selected,
    class: marks,
    ...on,
  }
}
const row = ({ option }: { option: TreeOption }) => {
  const found = nodeOf(option.key)
  return found ? slots.default?.({ node: found.node }) : ''
}
function down(event: KeyboardEvent) {
  if (!props.press(event, () => nodeOf(ahead())?.node)) return later()
  event.preventDefault()
  event.stopPropagation()
  void later()
}
</script>

<template>
  <div class="rows" @keydown.capture="down" @keyup="later" @click="later">
    <NTree
      ref="root"
      block-line
      virtual-scroll
      :draggable="draggable"
      :allow-drop="() => false"
      :data="nodes as unknown as TreeOption[]"
      :expanded-keys="expanded"
      :selectable="false"
      :node-props="nodeProps"
      :render-label="row"
      :style="{ height }"
      @dragstart="({ node, event }) => emit('drag', nodeOf(node.key)!.node, event)"
      @update:expanded-keys="unfold"
    />
  </div>
</template>

<style scoped>
.rows :deep(.n-tree-node) {
  border-radius: 6px;
  cursor: pointer;
}
.rows :deep(.n-tree-node-content),
.rows :deep(.n-tree-node-content__text) {
  width: 100%;
  min-width: 0;
  border: 0;
}
.rows :deep(.n-tree-node--pending) {
  box-shadow: inset 3px 0 0 var(--both);
}
.rows :deep(.line) {
  padding-right: 0.8rem; /* what scrolls has its bar there */
  display: flex;
  gap: 0.5rem;
  align-items: center;
  white-space: nowrap;
}
.rows :deep(.mark) {
  color: var(--both);
  flex: none;
  width: 0.9rem;
}
.rows :deep(.title) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.rows :deep(.strong) {
  font-weight: 600;
}
.rows :deep(.barred) {
  color: var(--soft);
}
.rows :deep(.facts) {
  margin-left: auto;
  font-size: 0.83rem;
  flex: none;
}
@media (max-width: 640px) {
  .rows :deep(.facts) {
    display: none;
  }
}
</style>
