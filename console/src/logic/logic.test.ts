import { describe, expect, it } from 'vitest'

import { inZone } from './dates'
import { groupBy } from './groups'
import { kindOf } from './kinds'
import { cellAt, cellSize, cellsOf, FRAME, inSight, neighbour, scrolledTo } from './matrix'

describe('dates', () => {
  it('are shown in the zone of the course, daylight saving included', () => {
    expect(inZone('2027-03-12T23:59:00-06:00', 'America/Chicago')).toMatch(/^Mar 12, 11:59\sPM$/)
    expect(inZone('2027-07-01T12:00:00Z', 'America/Chicago')).toMatch(/^Jul 1, 7:00\sAM$/)
  })
  it('that cannot be read are shown as they are', () => {
    expect(inZone('soon', 'UTC')).toBe('soon')
    expect(inZone(null, 'UTC')).toBe('')
  })
})

describe('groups', () => {
  it('keep the order in which they first appear', () => {
    const groups = groupBy(['b1', 'a1', 'b2'], (row) => row.slice(0, 1))
    expect(groups).toEqual([
      { name: 'b', rows: ['b1', 'b2'] },
      { name: 'a', rows: ['a1'] },
    ])
  })
})

describe('the matrix', () => {
  const cells = cellsOf([
    ['agree', null, 'edited'],
    [null, 'unsent', 'agree'],
  ])
  it('has no cell where nobody has a score', () => {
    expect(cells).toHaveLength(4)
  })
  it('is walked by arrow keys over gaps, and stops at edges', () => {
    const first = cells[0]!
    expect(neighbour(cells, first, 'ArrowRight')).toEqual({ row: 0, column: 2, kind: 'edited' })
    expect(neighbour(cells, first, 'ArrowDown')).toBeUndefined()
    expect(neighbour(cells, first, 'Enter')).toBeUndefined()
  })
  it('shrinks its cells for a wide class, but not beyond what can be hit', () => {
    expect(cellSize(10, 900)).toBe(28)
    expect(cellSize(60, 900)).toBe(15)
    expect(cellSize(400, 900)).toBe(12)
  })
  it('paints only what is in sight, and knows what is under a point of it', () => {
    const rows = Array.from({ length: 500 }, () => Array.from({ length: 40 }, () => 'agree'))
    const size = 14
    const window = {
      size,
      width: FRAME.names + 140,
      height: FRAME.head + 280,
      left: 70,
      top: 1400,
      matrix: { learners: rows, items: rows[0]! },
    }
    expect(inSight(window)).toEqual({ rows: [100, 120], columns: [5, 15] })
    expect(cellAt(rows, size, FRAME.names + 1, FRAME.head + 1, 70, 1400)).toEqual({
      row: 100,
      column: 5,
      kind: 'agree',
    })
    expect(cellAt(rows, size, 10, FRAME.head + 1, 70, 1400)).toBeUndefined()
    expect(scrolledTo({ row: 120, column: 5, kind: '' }, size, window)).toEqual({
      left: 70,
      top: 121 * size - 280 + 4,
    })
  })
})

describe('kinds', () => {
  it('give every kind of cell that is not quiet a mark of its own', () => {
    const codes = [
      'unsent',
      'behind',
      'cleared',
      'held',
      'refused',
      'edited',
      'gradebook_only',
      'withdrawn',
      'clash',
      'differ',
    ]
    expect(new Set(codes.map((code) => kindOf(code).mark)).size).toBe(codes.length)
    expect(kindOf('something_new').label).toBe('something new')
  })
})
