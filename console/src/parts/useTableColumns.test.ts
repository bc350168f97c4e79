import { describe, expect, it } from 'vitest'
import { ref, type VNode } from 'vue'
import type { Column, Sorted } from './listTable'
import { useTableColumns } from './useTableColumns'

interface Person {
  id: string
  name: string
  left?: boolean
}
const rows: Person[] = [
  { id: '1', name: 'Ada Brook' },
  { id: '2', name: 'Ben Croft', left: true },
  { id: '3', name: 'Cara Finch' },
]
const columns: Column<Person>[] = [
  { key: 'name', title: 'Name', by: (row) => row.name, text: (row) => row.name, heading: true },
  { key: 'do', title: 'What can be done', hidden: true },
]

function table(checked = ref<string[]>([]), sorted = ref<Sorted>({ key: '', order: false })) {
  const drawn = useTableColumns<Person>(
    {
      columns,
      rows,
      rowKey: (row) => row.id,
      nameOf: (row) => row.name,
      mayCheck: (row) => !row.left,
    },
    checked,
    sorted,
    (key) => (key === 'do' ? ({ row }) => `Pair ${row.name}` : undefined),
  )
  /** A column as it is now; its parts are functions of the library's. */
  const at = (place: number) =>
    drawn.value[place] as unknown as {
      title: () => VNode
      render: (row: Person) => VNode | string | null
      className: string
    }
  return { checked, sorted, at }
}

describe('the boxes of a list', () => {
  it('are on every row that may be checked, and name it', () => {
    const { at } = table()
    const box = at(0).render(rows[0]!) as VNode
    expect(box.props).toMatchObject({ checked: false, 'aria-label': 'Ada Brook' })
    expect(at(0).render(rows[1]!)).toBeNull()
  })
  it('are all checked by the one in the title, without those that may not be', () => {
    const { checked, at } = table()
    at(0).title().props!.onUpdateChecked(true)
    expect(checked.value).toEqual(['1', '3'])
    expect(at(0).title().props).toMatchObject({ checked: true, indeterminate: false })
    at(0).title().props!.onUpdateChecked(false)
    expect(checked.value).toEqual([])
  })
  it('show in the title that some are checked', () => {
    const { checked, at } = table()
    ;(at(0).render(rows[2]!) as VNode).props!.onUpdateChecked(true)
    expect(checked.value).toEqual(['3'])
    expect(at(0).title().props).toMatchObject({ checked: false, indeterminate: true })
    ;(at(0).render(rows[2]!) as VNode).props!.onUpdateChecked(false)
    expect(checked.value).toEqual([])
  })
})

describe('the columns of a list', () => {
  it('sort up, down and not at all by pressing the title', () => {
    const { sorted, at } = table()
    const orders = [1, 2, 3].map(() => {
      at(1).title().props!.onClick()
      return sorted.value.order
    })
    expect(orders).toEqual(['ascend', 'descend', false])
  })
  it('say what a slot says, else their text; a hidden title is for screen readers', () => {
    const { at } = table()
    expect(at(1).render(rows[0]!)).toBe('Ada Brook')
    expect(at(2).render(rows[0]!)).toBe('Pair Ada Brook')
    expect(at(2).title().props).toMatchObject({ class: 'sr-only' })
    expect([at(1).className, at(2).className]).toEqual([' heading ', '  bare'])
  })
})
