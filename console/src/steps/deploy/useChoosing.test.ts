import { describe, expect, it } from 'vitest'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { rowsOf, treeOf } from '@/logic/catalogue'
import { useChoosing } from './useChoosing'

const item = (id: string, unit: string, kind = 'graded') =>
  ({ id, unit, kind, shown_title: id, subjects: [] }) as unknown as Schemas['Item']
const items = [item('a', 'U1'), item('b', 'U1'), item('c', 'U2'), item('d', 'U2', 'reading')]

function choosing(single = false) {
  const chosen = ref<string[]>([])
  const rows = computed(() => rowsOf(items))
  return { chosen, rows, ...useChoosing(chosen, rows, () => single) }
}

describe('choosing in the catalogue', () => {
  it('takes a unit whole, and knows when it is taken in part', () => {
    const { chosen, rows, toggle, isOn, isPart } = choosing()
    const unit = rows.value[0]!
    toggle(unit)
    expect(chosen.value).toEqual(['a', 'b'])
    toggle(rows.value[1]!)
    expect([isOn(unit), isPart(unit)]).toEqual([false, true])
  })
  it('keeps the order in which items were chosen, each once', () => {
    const { chosen, set } = choosing()
    set(['c'], true)
    set(['a', 'c'], true)
    expect(chosen.value).toEqual(['c', 'a'])
  })
  it('takes a stretch from either end, over the headings between', () => {
    const { chosen, stretch } = choosing()
    stretch('c', 'a')
    expect([...chosen.value].sort()).toEqual(['a', 'b', 'c'])
  })
  it('takes all that can be placed, and no reading', () => {
    const { all } = choosing()
    expect(all.value).toEqual(['a', 'b', 'c'])
  })
  it('takes one where the platform takes one', () => {
    const { chosen, set } = choosing(true)
    set(['a', 'b'], true)
    set(['c'], true)
    expect(chosen.value).toEqual(['c'])
  })
  it('shows each item below its unit', () => {
    const tree = treeOf(rowsOf(items))
    expect(tree.map((node) => node.children?.map((each) => each.key))).toEqual([
      ['a', 'b'],
      ['c'],
      ['d'],
    ])
  })
})
