import { describe, expect, it } from 'vitest'
import { isMade, offersOf, sectionOf } from './useBegin'

const course = (id: string, more = {}) => ({
  id,
  title: 'Rivers',
  code: id.toUpperCase(),
  term: 'Spring 2027',
  publisher: 'Kestrelbrook',
  paired: false,
  mine: false,
  shared: false,
  offers: ['copy', 'sections', 'sharing'],
  ...more,
})
const title = { id: 't', title: 'Rivers', publisher: 'Kestrelbrook', can_create: true }
const values = (groups: ReturnType<typeof offersOf>) =>
  groups.flatMap((group) => group.children.map((each) => each.value))

describe('what a shell can be paired with', () => {
  it('is a free course; a paired one only to share, a colleague’s never to copy', () => {
    expect(values(offersOf([course('a'), course('b', { paired: true })], [], []))).toEqual([
      'course:a',
      'share:b',
    ])
  })
  it('is a copy or a section of one’s own, or a new course of a title', () => {
    expect(values(offersOf([course('a', { mine: true })], [title], [])).sort()).toEqual([
      'copy_of:a',
      'course:a',
      'section_of:a',
      'title:t',
    ])
    expect(values(offersOf([], [{ ...title, can_create: false }], []))).toEqual([])
  })
  it('keeps a guess that the list does not reach', () => {
    expect(values(offersOf([course('a')], [], [['z', 'Stones, Z']]))).toEqual([
      'course:a',
      'course:z',
    ])
  })
})

describe('a section', () => {
  it('says how its course comes to be, and a name only where one is made', () => {
    expect(sectionOf('s', 'course:a', 'x')).toEqual({
      shell: 's',
      course: 'a',
      share: false,
      name: '',
    })
    expect(sectionOf('s', 'share:a', '')).toMatchObject({ course: 'a', share: true })
    expect(sectionOf('s', 'title:t', ' Night ')).toMatchObject({ title: 't', name: 'Night' })
    expect([isMade('copy_of:a'), isMade('share:a')]).toEqual([true, false])
  })
})
