import { describe, expect, it } from 'vitest'
import { folderOf, saidOf } from './sheet'
import { wishesOf } from './wishes'

describe('what is wanted item by item', () => {
  it('is said only where it says something, and only of what is chosen', () => {
    const wishes = {
      a: { title: ' First ', becomes: 'link' as const, category: ' ' },
      b: { show: 'hidden' as const },
      c: { title: '' },
      d: { points: '5' },
    }
    expect(wishesOf(wishes, ['a', 'b', 'c'])).toEqual({
      a: { title: 'First', becomes: 'link' },
      b: { visible: false },
    })
    expect(wishesOf({ a: { show: 'shown' } }, ['a'])).toEqual({ a: { visible: true } })
  })
})

describe('the folders of units', () => {
  it('are those of the first shell where a section says none, else the names of the units', () => {
    const folders = { first: { 'Unit 1': ' Week 1 ', 'Unit 2': ' ' } }
    expect([
      folderOf(folders, 'first', 'Unit 1'),
      folderOf(folders, 'first', 'Unit 2'),
      folderOf(folders, 'second', 'Unit 1'),
    ]).toEqual(['Week 1', 'Unit 2', 'Unit 1'])
    expect(saidOf(folders, 'first')).toEqual({ 'Unit 1': 'Week 1' })
    expect(saidOf(folders, 'second')).toEqual({})
  })
})
