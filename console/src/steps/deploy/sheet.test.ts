import { describe, expect, it } from 'vitest'
import { folderOf, HOW, saidOf, sheetOf } from './sheet'

describe('a sheet', () => {
  it('says what was said, and nothing that was not', () => {
    expect(sheetOf(HOW)).toMatchObject({
      graded: 'column',
      undated: 'ask',
      category: 'publisher',
      visible: true,
      shown_before: null,
      shown_from: '',
      update: false,
    })
    expect(sheetOf({ ...HOW, category: '' }).category).toBe('publisher')
  })
  it('shows links as one of four ways, and never by two of them', () => {
    const ways = (['shown', 'hidden', 'before', 'from'] as const).map((show) => {
      const { visible, shown_before, shown_from } = sheetOf({
        ...HOW,
        show,
        before: 7,
        from: '2027-01-11T08:00',
      })
      return [visible, shown_before, shown_from]
    })
    expect(ways).toEqual([
      [true, null, ''],
      [false, null, ''],
      [true, 7, ''],
      [true, null, '2027-01-11T08:00'],
    ])
  })
  it('puts a unit into the folder that was named for it, else into its own', () => {
    const folders = { p: { 'Unit 1': ' Week 1 ', 'Unit 2': '  ' } }
    expect(folderOf(folders, 'p', 'Unit 1')).toBe('Week 1')
    expect(folderOf(folders, 'p', 'Unit 2')).toBe('Unit 2')
    expect(folderOf(folders, 'q', 'Unit 1')).toBe('Unit 1')
    expect(saidOf(folders, 'p')).toEqual({ 'Unit 1': 'Week 1' })
    expect(saidOf(folders, 'q')).toEqual({})
  })
})
