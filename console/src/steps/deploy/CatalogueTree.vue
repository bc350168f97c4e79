<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import {
  type Filters,
  narrowed,
  NO_FILTERS,
  type Row,
  rowsOf,
  type TreeNode,
  treeOf,
} from '@/logic/catalogue'
import type { RowFacts } from '@/parts/rowTree'
import RowTree from '@/parts/RowTree.vue'
import CatalogueFilters from './CatalogueFilters.vue'
import CatalogueRow from './CatalogueRow.vue'
import { idsOf, useChoosing } from './useChoosing'

/** The homework course by unit: choose items here, by pressing, by keys, or by dragging them over. */
const props = defineProps<{
  items: Schemas['Item'][]
  changed: Set<string>
  zone: string
  single?: boolean
}>()
/** The ids of the chosen items, in the order in which they were chosen. */
const chosen = defineModel<string[]>({ required: true })
const emit = defineEmits<{ look: [item: Schemas['Item']]; across: [] }>()
const filters = ref<Filters>({ ...NO_FILTERS })
const shown = computed(() => narrowed(props.items, filters.value, props.changed))
const rows = computed(() => rowsOf(shown.value))
const byKey = computed(() => new Map(rows.value.map((row) => [row.key, row])))
const nodes = computed(() => treeOf(rows.value))
const { isOn, isPart, mark, set, toggle, stretch, all, allOn } = useChoosing(
  chosen,
  rows,
  () => props.single ?? false,
)
const last = ref('')
const rowOf = (node: TreeNode): Row => byKey.value.get(node.key)!
function choose(row: Row, event: MouseEvent | KeyboardEvent) {
  if (event.shiftKey && last.value) stretch(last.value, row.key)
  else toggle(row)
  last.value = row.key
  if (row.kind === 'item') emit('look', row.item)
}
function drag(node: TreeNode, event: DragEvent) {
  const row = rowOf(node)
  if (!idsOf(row).length) return event.preventDefault()
  if (!isOn(row)) toggle(row)
  event.dataTransfer?.setData('text/plain', chosen.value.join(','))
}
const checkedOf = (row: Row) => (isOn(row) ? 'true' : isPart(row) ? 'mixed' : 'false')
const about = (node: TreeNode): RowFacts => {
  const row = rowOf(node)
  const some = idsOf(row).length > 0
  return {
    checked: some ? checkedOf(row) : undefined,
    selected: isOn(row),
    marks: [{ on: isOn(row), head: row.kind === 'head', barred: !some }],
    on: { onClick: (event: MouseEvent) => choose(row, event) },
  }
}
/** The tree moves by arrows on its own; what is chosen is ours. */
function press(event: KeyboardEvent, ahead: () => TreeNode | undefined): boolean {
  const node = ahead()
  if (event.key === ' ' && node) choose(rowOf(node), event)
  else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) set(all.value, true)
  else if (event.key === 'Escape') chosen.value = []
  else if (event.key === 'Enter' && chosen.value.length) emit('across')
  else {
    if (event.shiftKey && event.key.startsWith('Arrow')) extend(ahead)
    return false
  }
  return true
}
/** After the arrow has moved, choose what it is on. */
function extend(ahead: () => TreeNode | undefined) {
  requestAnimationFrame(() => {
    const node = ahead()
    const row = node && rowOf(node)
    if (row?.kind === 'item') set(idsOf(row), true)
  })
}
</script>

<template>
  <CatalogueFilters v-model="filters" :items="items" :changed="changed" />
  <p v-if="!rows.length" class="soft">
    {{ $t('catalogue.no_match') }}
    <NButton size="small" @click="filters = { ...NO_FILTERS }">{{
      $t('catalogue.clear_filters')
    }}</NButton>
  </p>
  <RowTree
    v-else
    class="tree"
    :nodes="nodes"
    :label="$t('catalogue.items')"
    :many="!single"
    draggable
    :about
    :press
    @drag="drag"
  >
    <template #default="{ node }">
      <CatalogueRow :row="rowOf(node)" :mark="mark(rowOf(node))" :zone />
    </template>
  </RowTree>
  <div class="row foot">
    <span class="soft" role="status">{{
      chosen.length
        ? $t('catalogue.selected', { n: chosen.length, shown: shown.length })
        : $t('catalogue.shown', { shown: shown.length })
    }}</span>
    <NButton v-if="!single" class="push" size="tiny" @click="set(all, !allOn)">{{
      allOn ? $t('catalogue.select_none') : $t('catalogue.select_all')
    }}</NButton>
  </div>
</template>

<style scoped>
.tree :deep(.n-tree-node-content) {
  padding-left: 0;
}
.tree :deep(.on) {
  background: var(--both-wash);
}
.tree :deep(.head) {
  font-weight: 650;
}
.tree :deep(.n-tree-node.barred) {
  cursor: default;
}
.foot {
  margin: 0.4rem 0 0;
  font-size: 0.85rem;
}
</style>
