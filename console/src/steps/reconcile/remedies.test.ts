import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { groupLabel } from '@/logic/kinds'
import { groupRemedies, remedyWords } from './remedies'

const finding = (...remedies: string[]) => ({ remedies }) as unknown as Schemas['Finding']

describe('remedies of a whole cause', () => {
  it('are those that every finding of it offers, in their order', () => {
    expect(groupRemedies([finding('keep', 'restore'), finding('keep', 'clear')])).toEqual(['keep'])
    expect(groupRemedies([finding('send', 'leave'), finding('send', 'leave')])).toEqual([
      'send',
      'leave',
    ])
  })
  it('never match learners in bulk, and are not offered for one finding alone', () => {
    expect(groupRemedies([finding('match', 'leave'), finding('match', 'leave')])).toEqual(['leave'])
    expect(groupRemedies([finding('send')])).toEqual([])
  })
  it('never write over scores in bulk where the publisher was not asked', () => {
    const row = (gradebook: string | null, read: boolean) => ({
      ...finding('send', 'keep'),
      gradebook,
      read,
    })
    expect(groupRemedies([row('7', true), row('8', true)])).toEqual(['send', 'keep'])
    expect(groupRemedies([row('7', true), row('8', false)])).toEqual(['keep'])
    expect(groupRemedies([row(null, false), row(null, false)])).toEqual(['send', 'keep'])
  })
  it('have a word each for their button', () => {
    for (const remedy of [
      'send',
      'restore',
      'clear',
      'keep',
      'leave',
      'put_back',
      'claim',
      'make_again',
      'match',
      'tie',
    ])
      expect(remedyWords(remedy)).not.toBe(remedy)
  })
})

describe('a group of findings', () => {
  it('says what explains it where one change does', () => {
    expect(groupLabel('edited', '')).toBe('changed in the gradebook')
    expect(groupLabel('edited', 'points_differ')).toBe(
      'changed in the gradebook, because points differ',
    )
  })
})
