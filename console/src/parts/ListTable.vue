<script setup lang="ts" generic="Row extends object">
import { NDataTable } from 'naive-ui/es/data-table'
import { computed, ref, type VNodeChild } from 'vue'
import { language } from '@/words'
import { type Column, ordered, type Sorted } from './listTable'
import { useTableAria } from './useTableAria'
import { useTableColumns } from './useTableColumns'

const MANY = 150 // rows from which on only those in sight are drawn
const props = defineProps<{
  /** What the table is of, for who cannot see it. */
  label: string
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  rowKey: (row: Row) => string
  /** Lets rows be checked, each by this name. */
  nameOf?: (row: Row) => string
  mayCheck?: (row: Row) => boolean
  rowClass?: (row: Row) => string
  loading?: boolean
  /** Where the rows are kept in their own order until somebody sorts. */
  maxHeight?: string
}>()
const slots = defineSlots<{ [name: `cell-${string}`]: (given: { row: Row }) => VNodeChild }>()
const checked = defineModel<string[]>('checked', { default: () => [] })
const sorted = ref<Sorted>({ key: '', order: false })
const root = ref<InstanceType<typeof NDataTable>>()

const data = computed(() =>
  ordered(
    props.rows,
    props.columns.find((each) => each.key === sorted.value.key),
    sorted.value.order,
    language(),
  ),
)
const drawn = useTableColumns(props, checked, sorted, (key) => slots[`cell-${key}`])

useTableAria(root, {
  label: () => props.label,
  columns: () => props.columns,
  sorted: () => sorted.value,
  drawn: () => [drawn.value, data.value.length],
})
</script>

<template>
  <NDataTable
    ref="root"
    class="list"
    :columns="drawn"
    :data="data"
    :row-key="rowKey"
    :row-class-name="rowClass"
    :loading="loading"
    :bordered="false"
    :single-line="true"
    :virtual-scroll="data.length > MANY"
    :max-height="data.length > MANY ? (maxHeight ?? '70vh') : maxHeight"
  />
</template>

<style scoped>
.list :deep(.sorts) {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  padding: 0;
  cursor: pointer;
  text-align: inherit;
}
.list :deep(.sorts:hover) {
  color: var(--ink);
}
.list :deep(th),
.list :deep(td) {
  word-break: normal;
  overflow-wrap: anywhere;
}
.list :deep(.mark) {
  color: var(--both);
}
.list :deep(.number) {
  text-align: right;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
</style>

<style scoped src="./listTableNarrow.css"></style>
