import { describe, expect, it } from 'vitest'
import { type Column, ordered } from '@/parts/listTable'

interface Row {
  name: string
  points: number | null
}
const rows: Row[] = [
  { name: 'Set 10', points: 5 },
  { name: 'set 2', points: null },
  { name: 'Ärger', points: 20 },
]
const name: Column<Row> = { key: 'name', title: 'Name', by: (row) => row.name }
const points: Column<Row> = { key: 'points', title: 'Points', by: (row) => row.points }
const names = (sorted: Row[]) => sorted.map((row) => row.name)

describe('a list', () => {
  it('is sorted as people read: numbers in words by size, letters by the language', () => {
    expect(names(ordered(rows, name, 'ascend', 'en'))).toEqual(['Ärger', 'set 2', 'Set 10'])
  })
  it('keeps what has no value last, whichever way it is sorted', () => {
    expect(names(ordered(rows, points, 'ascend', 'en'))).toEqual(['Set 10', 'Ärger', 'set 2'])
    expect(names(ordered(rows, points, 'descend', 'en'))).toEqual(['Ärger', 'Set 10', 'set 2'])
  })
  it('stays in its own order until somebody sorts', () => {
    expect(ordered(rows, name, false, 'en')).toEqual(rows)
    expect(ordered(rows, undefined, 'ascend', 'en')).toEqual(rows)
  })
})
