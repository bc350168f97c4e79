import { describe, expect, it } from 'vitest'
import { cellAt, cellsOf, cellSize, FRAME, inSight, neighbour, scrolledTo, sizeOf } from './matrix'

const ROWS = [
  ['agree', null, 'behind'],
  [null, 'edited', 'agree'],
  ['agree', null, null],
]

describe('the matrix of a class', () => {
  const cells = cellsOf(ROWS)
  it('has a cell only where there is something to say', () => {
    expect(cells).toHaveLength(5)
    expect(cells[1]).toEqual({ row: 0, column: 2, kind: 'behind' })
  })
  it('has cells that can be hit, and no larger than a few columns need', () => {
    expect([cellSize(4, 560), cellSize(30, 560), cellSize(200, 560), cellSize(0, 560)]).toEqual([
      28, 18, 12, 0,
    ])
    expect(sizeOf(2, 3, 20)).toEqual({
      width: FRAME.names + 60 + FRAME.tail,
      height: FRAME.head + 44,
    })
  })
  it('is moved through by arrows, over what is not there, and stays at its edges', () => {
    const first = cells[0]!
    expect(neighbour(cells, first, 'ArrowRight')).toMatchObject({ row: 0, column: 2 })
    expect(neighbour(cells, first, 'ArrowDown')).toMatchObject({ row: 2, column: 0 })
    expect(neighbour(cells, first, 'ArrowLeft')).toBeUndefined()
    expect(neighbour(cells, first, 'ArrowUp')).toBeUndefined()
    expect(neighbour(cells, first, 'Enter')).toBeUndefined()
  })
  it('is known by the point that was pressed, scrolled or not', () => {
    const at = (x: number, y: number, left = 0, top = 0) => cellAt(ROWS, 20, x, y, left, top)
    expect(at(FRAME.names + 45, FRAME.head + 5)).toEqual({ row: 0, column: 2, kind: 'behind' })
    expect(at(FRAME.names + 25, FRAME.head + 5)).toBeUndefined()
    expect(at(FRAME.names + 5, FRAME.head + 5, 20, 20)).toMatchObject({ row: 1, column: 1 })
    expect(at(FRAME.names - 1, FRAME.head + 5)).toBeUndefined()
    expect(at(FRAME.names + 5, 10)).toBeUndefined()
    expect(at(FRAME.names + 5_000, FRAME.head + 5)).toBeUndefined()
  })
  it('paints what is in sight and no more', () => {
    const matrix = { learners: Array(500), items: Array(40) }
    const sight = { size: 14, width: 560, height: 400, left: 0, top: 1400, matrix }
    const { rows, columns } = inSight(sight)
    expect(rows[0]).toBe(100)
    expect(rows[1] - rows[0]).toBeLessThan(25)
    expect(columns).toEqual([0, Math.ceil((560 - FRAME.names) / 14)])
    expect(inSight({ ...sight, top: 1_000_000 }).rows[1]).toBe(500)
  })
  it('scrolls to a cell by as little as may be, and not at all where it is in sight', () => {
    const box = { left: 0, top: 100, width: 560, height: 400 }
    expect(scrolledTo({ row: 10, column: 3, kind: '' }, 14, box)).toEqual({ left: 0, top: 100 })
    expect(scrolledTo({ row: 2, column: 3, kind: '' }, 14, box).top).toBe(28)
    const below = scrolledTo({ row: 60, column: 39, kind: '' }, 14, box)
    expect(below.top).toBe(61 * 14 - (400 - FRAME.head) + 4)
    expect(below.left).toBe(40 * 14 - (560 - FRAME.names) + 4)
  })
})
