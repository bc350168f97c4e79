import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { becomes, narrowed, NO_FILTERS, rowsOf } from './catalogue'

const item = (facts: Partial<Schemas['Item']>) =>
  ({
    id: 'x',
    title: 'X',
    shown_title: 'X',
    kind: 'graded',
    unit: 'Unit 1',
    points: '10',
    due_at: '2027-01-19T23:59:00-06:00',
    category: 'Practice',
    placed: 'no',
    ...facts,
  }) as Schemas['Item']

describe('the catalogue', () => {
  const items = [
    item({ id: 'a', shown_title: 'Quiz' }),
    item({ id: 'b', kind: 'reading', unit: 'Unit 1' }),
    item({ id: 'c', unit: 'Unit 2', due_at: '', placed: 'placed' }),
    item({ id: 'd', kind: 'link', unit: '' }),
  ]

  it('lists graded items first, by unit, and a heading chooses only what can be placed', () => {
    expect(
      rowsOf(items).map((row) => (row.kind === 'head' ? [row.title, row.ids] : row.item.id)),
    ).toEqual([
      ['Unit 1 · graded', ['a']],
      'a',
      ['Unit 2 · graded', ['c']],
      'c',
      ['Unit 1 · other', []],
      'b',
      ['The course itself · other', ['d']],
      'd',
    ])
  })

  it('is narrowed by words, date, place and lately changed', () => {
    const ids = (filters: Partial<typeof NO_FILTERS>, changed: string[] = []) =>
      narrowed(items, { ...NO_FILTERS, ...filters }, new Set(changed)).map((each) => each.id)
    expect(ids({ words: 'qui' })).toEqual(['a'])
    expect(ids({ date: 'without', kind: 'graded' })).toEqual(['c'])
    expect(ids({ placed: 'yes' })).toEqual(['c'])
    expect(ids({ changed: true }, ['X'])).toHaveLength(4)
    expect(ids({ changed: true })).toEqual([])
  })

  it('says whether an item becomes a column', () => {
    expect([
      becomes(items[0]!),
      becomes(items[1]!),
      becomes(items[2]!),
      becomes(item({ points: '0' })),
      becomes(items[3]!),
    ]).toEqual([
      'a link and a column',
      'comes with the import',
      'no date: you decide',
      'a link: no points',
      'a link, no column',
    ])
  })
})
