<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NTree, type TreeOption } from 'naive-ui/es/tree'
import { computed, h, ref, useId } from 'vue'
import { type Destination, type OutlineNode, placeAt } from '@/logic/outline'
import { useTreeAria } from '@/parts/useTreeAria'
import { t } from '@/words'

/**
 * The shell's outline with what is to come in its place, in another tone. Press a folder, page or
 * entry, or drop items on it, and they go there.
 */
const props = defineProps<{ tree: OutlineNode[]; place: Destination; chosen: boolean }>()
const emit = defineEmits<{ choose: [place: Destination]; leave: [item: string] }>()
const flat = computed(() => {
  const found = new Map<string, { node: OutlineNode; level: number }>()
  const walk = (nodes: readonly OutlineNode[], level: number) => {
    for (const node of nodes) {
      found.set(node.key, { node, level })
      walk(node.children ?? [], level + 1)
    }
  }
  walk(props.tree, 1)
  return found
})
const shut = ref<string[]>([])
const expanded = computed(() =>
  [...flat.value].flatMap(([key, { node }]) =>
    node.children && !shut.value.includes(key) ? [key] : [],
  ),
)
const over = ref('')
const root = ref<InstanceType<typeof NTree>>()
const { idOf, ahead, later } = useTreeAria(root, {
  id: useId(),
  label: () => t('outline.tree'),
  drawn: () => [props.tree, props.place],
})
const nodeOf = (option: TreeOption) => flat.value.get(String(option.key))
function isHere(node: OutlineNode): boolean {
  const { into, folder, after } = props.place
  if (into === 'unit' || !node.id) return false
  return after && after !== 'start' ? after === node.id : folder === node.id
}
function choose(node: OutlineNode) {
  const place = placeAt(node)
  if (place) emit('choose', place)
}
const nodeProps = ({ option }: { option: TreeOption }) => {
  const found = nodeOf(option)
  if (!found) return {}
  const { node, level } = found
  return {
    role: 'treeitem',
    id: idOf(node.key),
    'data-tree-key': node.key,
    'aria-level': level,
    'aria-expanded': node.children ? !shut.value.includes(node.key) : undefined,
    'aria-selected': isHere(node),
    class: [node.coming ?? '', { here: isHere(node), over: over.value === node.key }],
    onClick: () => choose(node),
    onDragover: (event: DragEvent) => {
      if (!placeAt(node)) return
      event.preventDefault()
      over.value = node.key
    },
    onDragleave: () => (over.value = ''),
    onDrop: (event: DragEvent) => {
      event.preventDefault()
      over.value = ''
      choose(node)
    },
  }
}
function press(event: KeyboardEvent) {
  const node = flat.value.get(ahead() ?? '')?.node
  if ((event.key === ' ' || event.key === 'Enter') && node) choose(node)
  else if (event.key === 'Delete' && node?.item) emit('leave', node.item)
  else return later()
  event.preventDefault()
  event.stopPropagation()
}
const MARKS: Record<string, string> = { folder: '▤', page: '▭', heading: '¶', lti_link: '↗' }
const SAID = { folder: 'outline.making', make: 'outline.coming', change: 'outline.changing' }
const label = ({ option }: { option: TreeOption }) => {
  const node = nodeOf(option)?.node
  if (!node) return ''
  return h('span', { class: 'line' }, [
    h('span', { class: 'mark', 'aria-hidden': true }, MARKS[node.kind] ?? '·'),
    h('span', { class: ['title', { strong: node.kind === 'folder' }] }, node.label),
    node.hidden ? h('span', { class: 'soft' }, t('outline.hidden')) : null,
    node.coming ? h('span', { class: 'said' }, t(SAID[node.coming])) : null,
    node.item
      ? h(
          NButton,
          {
            size: 'tiny',
            quaternary: true,
            tabindex: -1,
            'aria-label': `${t('outline.leave')}: ${node.label}`,
            title: t('outline.leave'),
            onClick: (event: MouseEvent) => {
              event.stopPropagation()
              emit('leave', node.item!)
            },
          },
          { default: () => '×' },
        )
      : null,
  ])
}
</script>

<template>
  <p v-if="!tree.length" class="soft">{{ $t('outline.nothing') }}</p>
  <div v-else class="tree" @keydown.capture="press" @keyup="later">
    <NTree
      ref="root"
      block-line
      virtual-scroll
      :data="tree as unknown as TreeOption[]"
      :expanded-keys="expanded"
      :selectable="false"
      :node-props="nodeProps"
      :render-label="label"
      style="height: min(60vh, 34rem)"
      @update:expanded-keys="
        (keys: (string | number)[]) =>
          (shut = [...flat].flatMap(([key, { node }]) =>
            node.children && !keys.includes(key) ? [key] : [],
          ))
      "
    />
  </div>
  <p class="soft foot">{{ chosen ? $t('outline.drop') : $t('outline.none_selected') }}</p>
</template>

<style scoped>
.tree :deep(.n-tree-node) {
  border-radius: 6px;
  cursor: pointer;
}
.tree :deep(.n-tree-node-content),
.tree :deep(.n-tree-node-content__text) {
  width: 100%;
  min-width: 0;
  border: 0;
}
.tree :deep(.line) {
  padding-right: 0.8rem; /* what scrolls has its bar there */
  display: flex;
  gap: 0.45rem;
  align-items: center;
  white-space: nowrap;
}
.tree :deep(.title) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.tree :deep(.strong) {
  font-weight: 600;
}
.tree :deep(.mark) {
  color: var(--right);
  width: 0.9rem;
  flex: none;
}
.tree :deep(.make),
.tree :deep(.folder) {
  background: var(--both-wash);
  border: 1px dashed var(--both);
}
.tree :deep(.change) .said,
.tree :deep(.said) {
  margin-left: auto;
  color: var(--both);
  font-size: 0.8rem;
  font-weight: 600;
  flex: none;
}
.tree :deep(.here) {
  box-shadow: inset 4px 0 0 var(--right);
  background: var(--right-wash);
}
.tree :deep(.over) {
  outline: 2px dashed var(--both);
}
.tree :deep(.n-tree-node--pending) {
  text-decoration: underline;
}
.foot {
  margin: 0.4rem 0 0;
  font-size: 0.85rem;
}
</style>
