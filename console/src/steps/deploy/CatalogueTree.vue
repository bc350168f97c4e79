<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NTree, type TreeOption } from 'naive-ui/es/tree'
import { computed, h, ref, useId } from 'vue'
import type { Schemas } from '@/api/client'
import {
  becomesKey,
  type Filters,
  narrowed,
  NO_FILTERS,
  type Row,
  rowsOf,
  stands,
  treeOf,
} from '@/logic/catalogue'
import { inZone } from '@/logic/dates'
import { useTreeAria } from '@/parts/useTreeAria'
import { t } from '@/words'
import CatalogueFilters from './CatalogueFilters.vue'
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
const tree = computed(() => treeOf(rows.value) as unknown as TreeOption[])
const byKey = computed(() => new Map(rows.value.map((row) => [row.key, row])))
const shut = ref<string[]>([])
const expanded = computed(() =>
  rows.value.flatMap((row) =>
    row.kind === 'head' && !shut.value.includes(row.key) ? [row.key] : [],
  ),
)
const { isOn, isPart, set, toggle, stretch, all, allOn } = useChoosing(
  chosen,
  rows,
  () => props.single ?? false,
)
const last = ref('')
const root = ref<InstanceType<typeof NTree>>()
const id = useId()
const { idOf, ahead, later } = useTreeAria(root, {
  id,
  label: () => t('catalogue.items'),
  many: () => !props.single,
  drawn: () => [rows.value, chosen.value],
})

const rowOf = (option: TreeOption): Row => byKey.value.get(String(option.key))!
function choose(row: Row, event: MouseEvent | KeyboardEvent) {
  if (event.shiftKey && last.value) stretch(last.value, row.key)
  else toggle(row)
  last.value = row.key
  if (row.kind === 'item') emit('look', row.item)
}
function drag(row: Row, event: DragEvent) {
  if (!idsOf(row).length) return event.preventDefault()
  if (!isOn(row)) toggle(row)
  event.dataTransfer?.setData('text/plain', chosen.value.join(','))
}
const checkedOf = (row: Row): 'true' | 'mixed' | 'false' =>
  isOn(row) ? 'true' : isPart(row) ? 'mixed' : 'false'
const nodeProps = ({ option }: { option: TreeOption }) => {
  const row = rowOf(option)
  if (!row) return {}
  return {
    role: 'treeitem',
    id: idOf(row.key),
    'data-tree-key': row.key,
    'aria-level': row.kind === 'head' ? 1 : 2,
    'aria-expanded': row.kind === 'head' ? !shut.value.includes(row.key) : undefined,
    ...(idsOf(row).length ? { 'aria-checked': checkedOf(row) } : {}),
    'aria-selected': isOn(row),
    class: { on: isOn(row), head: row.kind === 'head', barred: !idsOf(row).length },
    onClick: (event: MouseEvent) => choose(row, event),
  }
}
/** The tree moves by arrows on its own; what is chosen is ours. */
function press(event: KeyboardEvent) {
  const row = byKey.value.get(ahead() ?? '')
  if (event.key === ' ' && row) choose(row, event)
  else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) set(all.value, true)
  else if (event.key === 'Escape') chosen.value = []
  else if (event.key === 'Enter' && chosen.value.length) emit('across')
  else {
    if (event.shiftKey && event.key.startsWith('Arrow')) extend()
    return later()
  }
  event.preventDefault()
  event.stopPropagation()
}
/** After the arrow has moved, choose what it stands on. */
function extend() {
  requestAnimationFrame(() => {
    const row = byKey.value.get(ahead() ?? '')
    if (row?.kind === 'item') set(idsOf(row), true)
  })
}
const facts = (item: Schemas['Item']) =>
  item.kind === 'graded'
    ? [
        item.points ? t('count.points', Number(item.points)) : t('catalogue.no_points'),
        inZone(item.due_at, props.zone) || t('catalogue.no_date'),
      ].join(', ')
    : t(`kind.${item.kind}`)
const standing = (item: Schemas['Item']) =>
  stands(item)
    ? t('catalogue.is_placed')
    : item.placed === 'failed'
      ? t('catalogue.failed')
      : becomesKey(item) === 'undated'
        ? t('catalogue.decide')
        : ''
const mark = (row: Row) =>
  isOn(row) ? '●' : isPart(row) ? '◐' : row.kind === 'item' && stands(row.item) ? '✓' : '○'
const label = ({ option }: { option: TreeOption }) => {
  const row = rowOf(option)
  if (!row) return ''
  const dot = h('span', { class: 'mark', 'aria-hidden': true }, idsOf(row).length ? mark(row) : '·')
  if (row.kind === 'head') return h('span', { class: 'line' }, [dot, row.title])
  return h('span', { class: 'line' }, [
    dot,
    h('span', { class: ['title', { soft: stands(row.item) }] }, row.item.shown_title),
    h('span', { class: 'facts soft' }, facts(row.item)),
    h('span', { class: ['where', row.item.placed] }, standing(row.item)),
  ])
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
  <div v-else class="tree" @keydown.capture="press" @keyup="later">
    <NTree
      ref="root"
      block-line
      draggable
      :allow-drop="() => false"
      virtual-scroll
      :data="tree"
      :expanded-keys="expanded"
      :selectable="false"
      :node-props="nodeProps"
      @dragstart="({ node, event }) => drag(rowOf(node), event)"
      :render-label="label"
      style="height: min(60vh, 34rem)"
      @update:expanded-keys="
        (keys: (string | number)[]) =>
          (shut = rows.flatMap((row) =>
            row.kind === 'head' && !keys.includes(row.key) ? [row.key] : [],
          ))
      "
    />
  </div>
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
.tree :deep(.n-tree-node) {
  border-radius: 6px;
  cursor: pointer;
}
.tree :deep(.n-tree-node-content) {
  width: 100%;
  min-width: 0;
  padding-left: 0;
}
.tree :deep(.n-tree-node-content__text) {
  width: 100%;
  min-width: 0;
  border: 0;
}
.tree :deep(.on) {
  background: var(--both-wash);
}
.tree :deep(.head) {
  font-weight: 650;
}
.tree :deep(.barred) {
  cursor: default;
  color: var(--soft);
}
.tree :deep(.n-tree-node--pending) {
  box-shadow: inset 3px 0 0 var(--both);
}
.tree :deep(.line) {
  padding-right: 0.8rem; /* what scrolls has its bar there */
  display: flex;
  gap: 0.5rem;
  align-items: center;
  white-space: nowrap;
}
.tree :deep(.mark) {
  color: var(--both);
  flex: none;
  width: 0.9rem;
}
.tree :deep(.title) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.tree :deep(.facts) {
  margin-left: auto;
  font-size: 0.82rem;
  flex: none;
}
.tree :deep(.where) {
  font-size: 0.8rem;
  flex: none;
  min-width: 3.6rem;
  text-align: right;
}
.tree :deep(.where.placed) {
  color: var(--both);
  font-weight: 600;
}
.tree :deep(.where.failed) {
  color: var(--alarm);
  font-weight: 600;
}
.foot {
  margin: 0.4rem 0 0;
  font-size: 0.85rem;
}
@media (max-width: 640px) {
  .tree :deep(.facts) {
    display: none;
  }
}
</style>
