<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { ref } from 'vue'
import { type Destination, type OutlineNode, placeAt } from '@/logic/outline'
import RowTree from '@/parts/RowTree.vue'

/**
 * The shell's outline with what is to come in its place, in another tone. Press a folder, page or
 * entry, or drop items on it, and they go there.
 */
const props = defineProps<{ tree: OutlineNode[]; place: Destination; chosen: boolean }>()
const emit = defineEmits<{ choose: [place: Destination]; leave: [item: string] }>()
const over = ref('')
function isHere(node: OutlineNode): boolean {
  const { into, folder, after } = props.place
  if (into === 'unit' || !node.id) return false
  return after && after !== 'start' ? after === node.id : folder === node.id
}
function choose(node: OutlineNode) {
  const place = placeAt(node)
  if (place) emit('choose', place)
}
const about = (node: OutlineNode) => ({
  selected: isHere(node),
  marks: [node.coming ?? '', { here: isHere(node), over: over.value === node.key }],
  on: {
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
  },
})
function press(event: KeyboardEvent, ahead: () => OutlineNode | undefined): boolean {
  const node = ahead()
  if ((event.key === ' ' || event.key === 'Enter') && node) choose(node)
  else if (event.key === 'Delete' && node?.item) emit('leave', node.item)
  else return false
  return true
}
const MARKS: Record<string, string> = { folder: '▤', page: '▭', heading: '¶', lti_link: '↗' }
const SAID = { folder: 'outline.making', make: 'outline.coming', change: 'outline.changing' }
</script>

<template>
  <p v-if="!tree.length" class="soft">{{ $t('outline.nothing') }}</p>
  <RowTree v-else class="tree" :nodes="tree" :label="$t('outline.tree')" :about :press>
    <template #default="{ node }">
      <span class="line">
        <span class="mark" aria-hidden="true">{{ MARKS[node.kind] ?? '·' }}</span>
        <span class="title" :class="{ strong: node.kind === 'folder' }" :title="node.label">{{
          node.label
        }}</span>
        <span v-if="node.hidden" class="soft">{{ $t('outline.hidden') }}</span>
        <span v-if="node.coming" class="said">{{ $t(SAID[node.coming]) }}</span>
        <NButton
          v-if="node.item"
          size="tiny"
          quaternary
          tabindex="-1"
          :aria-label="`${$t('outline.leave')}: ${node.label}`"
          :title="$t('outline.leave')"
          @click.stop="emit('leave', node.item)"
          >×</NButton
        >
      </span>
    </template>
  </RowTree>
  <p class="soft foot">{{ chosen ? $t('outline.drop') : $t('outline.none_selected') }}</p>
</template>

<style scoped>
.tree :deep(.mark) {
  color: var(--right);
}
.tree :deep(.make),
.tree :deep(.folder) {
  background: var(--both-wash);
  border: 1px dashed var(--both);
}
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
