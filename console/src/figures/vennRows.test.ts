import { describe, expect, it } from 'vitest'
import { rowsOf } from './vennRows'

const venn = (differ: number) => ({
  items: [2, 30, 1],
  columns: [2, 28, 1],
  scores: [4, 300, 2],
  scores_differ: [differ],
})

describe('the two circles', () => {
  it('lead from each number to what it counts', () => {
    const rows = rowsOf('p', venn(0))
    const to = rows.map(({ name, links }) => [name, ...links.map((each) => JSON.stringify(each))])
    expect(to[0]?.[1]).toContain('"placed":"no"')
    expect(to[1]?.[3]).toContain('column_extra')
    expect(to[2]?.[2]).toContain('"side":"both"')
    expect(rows.every(({ links }) => JSON.stringify(links).includes('"pairing":"p"'))).toBe(true)
  })
  it('say beside the scores how many of both sides do not agree, and nothing where all do', () => {
    expect(rowsOf('p', venn(3)).map(({ note }) => note)).toEqual(['', '', '3 do not agree'])
    expect(rowsOf('p', venn(0)).map(({ note }) => note)).toEqual(['', '', ''])
  })
})
