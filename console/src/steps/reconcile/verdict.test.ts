import { describe, expect, it } from 'vitest'
import { verdictOf } from './verdict'

const NONE = { cells: 40, learners: 20, columns: 2, kinds: { agree: 40 }, urgent: 0, safe: 0 }
const of = (more: object) => verdictOf({ ...NONE, ...more } as never)

describe('what a comparison comes to', () => {
  it('asks nothing where all agree', () => {
    expect(of({})).toMatchObject({ level: 'well', agree: 40, safe: 0, root: undefined })
    expect(of({}).sentence).toContain('40')
  })
  it('says how many do not agree, and what is safe first', () => {
    const made = of({ kinds: { agree: 37 }, urgent: 3, safe: 2, open: { unsent: 3 } })
    expect(made.level).toBe('trouble')
    expect(made.sentence).toMatch(/^3 of 40 scores/)
    expect(made.advice.indexOf('2')).toBeLessThan(made.advice.indexOf('1'))
  })
  it('waits where nothing is urgent, and counts what somebody typed', () => {
    const made = of({ kinds: { agree: 38 }, open: { edited: 2 } })
    expect(made.level).toBe('waits')
    expect(made.advice).toContain('2')
  })
  it('names the cause of a whole column and counts its cells only once', () => {
    const root = { item: 'Unit 1 quiz', gradebook: '25', publisher: '20', cells: 12 }
    const made = of({ kinds: { agree: 28 }, roots: [root], open: { edited: 12 } })
    expect(made.root).toEqual(root)
    expect(made.advice).toContain('Unit 1 quiz')
    expect(made.advice.split(';')).toHaveLength(1)
  })
})
