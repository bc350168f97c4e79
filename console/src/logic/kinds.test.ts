import { describe, expect, it } from 'vitest'
import { groupLabel, kindOf, loudestFirst } from './kinds'

describe('kinds of findings', () => {
  it('have words, and a mark of their own where they are in the matrix', () => {
    const cells = ['unsent', 'behind', 'cleared', 'held', 'refused', 'edited', 'gradebook_only']
    const marks = [...cells, 'withdrawn', 'unread', 'clash', 'differ'].map(
      (each) => kindOf(each).mark,
    )
    expect(new Set(marks).size).toBe(marks.length)
    expect(kindOf('points_differ').label).toBe('points differ')
  })
  it('that a newer service knows are shown all the same', () => {
    expect(kindOf('a_new_one')).toEqual({ label: 'a new one', mark: '?', tone: 'both' })
  })
  it('come with the loudest first, whatever their order', () => {
    const found = loudestFirst({ agree: 3, edited: 1, behind: 2, differ: 1 })
    expect(found.map(([kind]) => kind)).toEqual(['differ', 'behind', 'edited', 'agree'])
  })
  it('name what explains them', () => {
    expect(groupLabel('differ', '')).toBe(kindOf('differ').label)
    const said = groupLabel('differ', 'points_differ')
    expect(said).toContain(kindOf('differ').label)
    expect(said).toContain('points differ')
  })
})
