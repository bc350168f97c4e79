import { describe, expect, it } from 'vitest'
import { inOrder, type Shell } from './useShells'

const shell = (id: string, label: string, attention = '') => ({ id, label, attention }) as Shell

describe('the shells', () => {
  it('begin with the one that one came from, then with what needs attention, then by label', () => {
    const shells = [
      shell('1', 'HYD 210-10'),
      shell('2', 'HYD 210-2'),
      shell('3', 'HYD 210-03', 'the relay is off'),
      shell('4', 'HYD 210-04'),
    ]
    expect(inOrder(shells, '4').map((each) => each.id)).toEqual(['4', '3', '2', '1'])
  })
})
