import { NCheckbox } from 'naive-ui/es/checkbox'
import type { DataTableColumn } from 'naive-ui/es/data-table'
import { computed, h, type Ref, type VNodeChild } from 'vue'
import { t } from '@/words'
import { type Column, orderOf, pressed, type Sorted } from './listTable'

const MARK: Record<string, string> = { false: '', ascend: ' ↑', descend: ' ↓' }

interface Given<Row> {
  columns: readonly Column<Row>[]
  rows: readonly Row[]
  rowKey: (row: Row) => string
  nameOf?: (row: Row) => string
  mayCheck?: (row: Row) => boolean
}

/** A list's columns as the library draws them: titles that sort, cells from slots, and first the boxes. */
export function useTableColumns<Row extends object>(
  given: Given<Row>,
  checked: Ref<string[]>,
  sorted: Ref<Sorted>,
  slotOf: (key: string) => ((given: { row: Row }) => VNodeChild) | undefined,
) {
  const boxes = useBoxes(given, checked)
  function titleOf(column: Column<Row>): VNodeChild {
    if (column.hidden) return h('span', { class: 'sr-only' }, column.title)
    if (!column.by) return column.title
    const press = () => (sorted.value = pressed(sorted.value, column.key))
    const mark = MARK[String(orderOf(sorted.value, column.key))]
    return h('button', { type: 'button', class: 'sorts', onClick: press }, [
      column.title,
      h('span', { 'aria-hidden': true, class: 'mark' }, mark),
    ])
  }
  const drawnOf = (column: Column<Row>): DataTableColumn<Row> => ({
    key: column.key,
    title: () => titleOf(column),
    width: column.width,
    minWidth: column.minWidth ?? (column.width ? undefined : 96),
    resizable: !column.hidden,
    fixed: column.fixed ? 'left' : undefined,
    className: [
      column.number ? 'number' : '',
      column.heading ? 'heading' : '',
      column.hidden ? 'bare' : '',
    ].join(' '),
    cellProps: (row) => ({
      'data-label': column.title,
      class: column.skipNarrow?.(row) ? 'skipped' : undefined,
    }),
    render: (row) => slotOf(column.key)?.({ row }) ?? column.text?.(row) ?? '',
  })
  return computed(() => [
    ...(given.nameOf ? [boxes.value] : []),
    ...given.columns.map((column) => drawnOf(column)),
  ])
}

/** The column of boxes, with one in its title for all rows that may be checked. */
function useBoxes<Row extends object>(given: Given<Row>, checked: Ref<string[]>) {
  const may = (row: Row) => given.mayCheck?.(row) ?? true
  const checkable = computed(() => given.rows.filter(may).map(given.rowKey))
  const marked = computed(() => new Set(checked.value))
  const many = computed(() => checkable.value.filter((key) => marked.value.has(key)).length)
  function check(key: string, on: boolean) {
    checked.value = on ? [...checked.value, key] : checked.value.filter((each) => each !== key)
  }
  return computed<DataTableColumn<Row>>(() => ({
    key: 'checked',
    width: 40,
    className: 'checks',
    title: () =>
      h(NCheckbox, {
        checked: many.value > 0 && many.value === checkable.value.length,
        indeterminate: many.value > 0 && many.value < checkable.value.length,
        'aria-label': t('list.select_all'),
        onUpdateChecked: (on: boolean) => (checked.value = on ? [...checkable.value] : []),
      }),
    render: (row) =>
      may(row)
        ? h(NCheckbox, {
            checked: marked.value.has(given.rowKey(row)),
            'aria-label': given.nameOf?.(row),
            onUpdateChecked: (on: boolean) => check(given.rowKey(row), on),
          })
        : null,
  }))
}
