import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { useEntryTree } from './useEntryTree'

const entry = (position: number, parent: number, kind = 'page', more = {}) =>
  ({
    id: `e${position}`,
    position,
    parent,
    kind,
    depth: parent < 0 ? 0 : 1,
    blocked: false,
    shown_title: `Entry ${position}`,
    ...more,
  }) as unknown as Schemas['Entry']
const rows = [
  entry(0, -1, 'folder'),
  entry(1, 0),
  entry(2, 0, 'page', { blocked: true }),
  entry(3, 0),
  entry(4, -1),
  entry(5, -1, 'folder'),
]

function tree(all = rows, chosen = ref<string[]>([])) {
  return { chosen, ...useEntryTree({ rows: all, all }, chosen) }
}

describe('a package as a tree', () => {
  it('has each entry below its folder', () => {
    const { nodes } = tree()
    expect(nodes.value.map((each) => each.key)).toEqual(['e0', 'e4', 'e5'])
    expect(nodes.value[0]?.children?.map((each) => each.key)).toEqual(['e1', 'e2', 'e3'])
  })
  it('shows an entry whose folder is not among the rows that a search left', () => {
    const left = [rows[1]!, rows[4]!]
    expect(tree(left).nodes.value.map((each) => each.key)).toEqual(['e1', 'e4'])
  })
  it('begins with its folders shut where it is large, and open where it is not', () => {
    const many = Array.from({ length: 250 }, (_, number) =>
      number % 50 ? entry(number, number - (number % 50)) : entry(number, -1, 'folder'),
    )
    expect(tree(many).shut.value).toEqual(['e0', 'e50', 'e100', 'e150', 'e200'])
    expect(tree().shut.value).toEqual([])
  })
})

describe('choosing in it', () => {
  it('takes all of a folder that can come in, and gives it back', () => {
    const { chosen, state, flip } = tree()
    flip(rows[0]!)
    expect([...chosen.value].sort()).toEqual(['e1', 'e3'])
    expect(state(rows[0]!)).toBe('all')
    flip(rows[0]!)
    expect(chosen.value).toEqual([])
  })
  it('knows a folder that is chosen in part, and completes it', () => {
    const { chosen, state, flip } = tree()
    flip(rows[3]!)
    expect([state(rows[0]!), state(rows[3]!)]).toEqual(['some', 'all'])
    flip(rows[0]!)
    expect([...chosen.value].sort()).toEqual(['e1', 'e3'])
  })
  it('leaves what cannot come in, and a folder of nothing', () => {
    const { chosen, barred, flip } = tree()
    expect([rows[2]!, rows[5]!, rows[4]!].map(barred)).toEqual([true, true, false])
    flip(rows[2]!)
    flip(rows[5]!)
    expect(chosen.value).toEqual([])
  })
})
