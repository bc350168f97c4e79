<script setup lang="ts" generic="Row extends object">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { type DataTableColumn, NDataTable } from 'naive-ui/es/data-table'
import { computed, h, ref, type VNodeChild } from 'vue'
import { language, t } from '@/words'
import { type Column, type Order, ordered } from './listTable'
import { useTableAria } from './useTableAria'

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
const slots = defineSlots<{ [name: `cell-${string}`]: (given: { row: Row }) => unknown }>()
const checked = defineModel<string[]>('checked', { default: () => [] })
const sorted = ref<{ key: string; order: Order }>({ key: '', order: false })
const root = ref<InstanceType<typeof NDataTable>>()

const data = computed(() =>
  ordered(
    props.rows,
    props.columns.find((each) => each.key === sorted.value.key),
    sorted.value.order,
    language(),
  ),
)
const checkable = computed(() =>
  props.rows.filter((row) => props.mayCheck?.(row) ?? true).map(props.rowKey),
)
const marked = computed(() => new Set(checked.value))
const all = computed(() => checkable.value.filter((key) => marked.value.has(key)).length)

const NEXT: Record<string, Order> = { false: 'ascend', ascend: 'descend', descend: false }
const MARK: Record<string, string> = { false: '', ascend: ' ↑', descend: ' ↓' }
function sortBy(key: string) {
  const order = sorted.value.key === key ? sorted.value.order : false
  sorted.value = { key, order: NEXT[String(order)] ?? false }
}
function titleOf(column: Column<Row>): VNodeChild {
  if (column.hidden) return h('span', { class: 'sr-only' }, column.title)
  if (!column.by) return column.title
  const order = sorted.value.key === column.key ? sorted.value.order : false
  const press = { type: 'button', class: 'sorts', onClick: () => sortBy(column.key) }
  return h('button', press, [
    column.title,
    h('span', { 'aria-hidden': true, class: 'mark' }, MARK[String(order)]),
  ])
}
function check(key: string, on: boolean) {
  checked.value = on ? [...checked.value, key] : checked.value.filter((each) => each !== key)
}
const selection = computed<DataTableColumn<Row>>(() => ({
  key: 'checked',
  width: 40,
  className: 'checks',
  title: () =>
    h(NCheckbox, {
      checked: all.value > 0 && all.value === checkable.value.length,
      indeterminate: all.value > 0 && all.value < checkable.value.length,
      'aria-label': t('list.select_all'),
      onUpdateChecked: (on: boolean) => (checked.value = on ? [...checkable.value] : []),
    }),
  render: (row) =>
    (props.mayCheck?.(row) ?? true)
      ? h(NCheckbox, {
          checked: marked.value.has(props.rowKey(row)),
          'aria-label': props.nameOf?.(row),
          onUpdateChecked: (on: boolean) => check(props.rowKey(row), on),
        })
      : null,
}))
const drawn = computed<DataTableColumn<Row>[]>(() => [
  ...(props.nameOf ? [selection.value] : []),
  ...props.columns.map((column) => ({
    key: column.key,
    title: () => titleOf(column),
    width: column.width,
    minWidth: column.minWidth ?? (column.width ? undefined : 96),
    resizable: !column.hidden,
    fixed: column.fixed ? ('left' as const) : undefined,
    className: [
      column.number ? 'number' : '',
      column.heading ? 'heading' : '',
      column.hidden ? 'bare' : '',
    ].join(' '),
    cellProps: (row: Row) => ({
      'data-label': column.title,
      class: column.skipNarrow?.(row) ? 'skipped' : undefined,
    }),
    render: (row: Row): VNodeChild =>
      slots[`cell-${column.key}`]
        ? (slots[`cell-${column.key}`]!({ row }) as VNodeChild)
        : (column.text?.(row) ?? ''),
  })),
])

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
@media (max-width: 640px) {
  .list :deep(.n-data-table-thead) {
    position: absolute;
    width: 1px;
    height: 1px;
    overflow: hidden;
    clip-path: inset(50%);
  }
  /* The widths of columns, which the library writes at each cell, are none in one column. */
  .list :deep(.n-scrollbar-content),
  .list :deep(table),
  .list :deep(tbody),
  .list :deep(tr),
  .list :deep(td) {
    width: auto !important;
    min-width: 0 !important;
  }
  .list :deep(table),
  .list :deep(tbody),
  .list :deep(tr) {
    display: block;
  }
  .list :deep(tr) {
    border-bottom: 1px solid var(--rule);
    padding: 0.4rem 0;
  }
  .list :deep(td) {
    display: flex;
    justify-content: space-between;
    gap: 1rem;
    border: 0;
    padding: 0.15rem 0.2rem;
    text-align: right;
  }
  .list :deep(td)::before {
    content: attr(data-label);
    color: var(--soft);
    font-size: 0.85rem;
    text-align: left;
    flex: none;
  }
  .list :deep(td.heading),
  .list :deep(td.bare) {
    display: block;
    text-align: left;
  }
  .list :deep(td.heading) {
    font-weight: 600;
  }
  .list :deep(td.heading)::before,
  .list :deep(td.bare)::before,
  .list :deep(td.checks)::before {
    content: none;
  }
  .list :deep(td.skipped) {
    display: none;
  }
}
</style>
