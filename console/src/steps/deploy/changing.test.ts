import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { type Change, sentencesOf, sheetOfChange } from './changing'

/** What a sheet may say of a link that is there already, beside that it is to be updated or moved. */
const said = (way: Change['way'], value = '') => {
  const { undated, ...sheet } = sheetOfChange({ way, value })
  expect(undated, 'no question about dates').toBe('column')
  return sheet
}

describe('one change of placed links', () => {
  it('says that, and of nothing else anything', () => {
    expect(said('hide')).toEqual({ update: true, visible: false, applies: ['visible'] })
    expect(said('show')).toMatchObject({ visible: true, shown_from: '' })
    expect(said('from', '2027-02-01T14:00:00Z')).toEqual({
      ...{ update: true, visible: true, shown_from: '2027-02-01T14:00:00Z' },
      applies: ['visible', 'shown_from'],
    })
    expect(said('rename', '{unit}: {title}')).toEqual({ update: true, pattern: '{unit}: {title}' })
    expect(said('category', 'Quizzes')).toEqual({ update: true, category: 'Quizzes' })
    expect(said('move', 'Week 1'), 'moves and does not update').toEqual({
      ...{ move: true, folder: 'Week 1' },
    })
  })

  it('is told in words, in the shell’s time zone, also what is not there', () => {
    const row = {
      target: { title: 'Quiz 1' },
      differences: [
        { field: 'visible', before: 'yes', after: 'no' },
        { field: 'due_at', before: '', after: '2027-02-02T05:59:00Z' },
        { field: 'category', before: 'Quizzes', after: '' },
      ],
    } as unknown as Schemas['Row']
    const words = sentencesOf(row, 'America/Chicago')
    expect(words).toMatch(/^Quiz 1: shown → hidden; /)
    expect(words).toContain('Feb 1')
    expect(words).toMatch(/none → .*Feb 1.*; .*Quizzes → none$/)
  })
})
