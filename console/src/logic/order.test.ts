import { expect, it } from 'vitest'
import { byName } from './order'

it('lists sections by number, and letters as the language has them', () => {
  const names = ['HYD 210-10', 'HYD 210-2', 'Zeta', 'Álgebra', 'HYD 210-1']
  expect(names.sort(byName)).toEqual(['Álgebra', 'HYD 210-1', 'HYD 210-2', 'HYD 210-10', 'Zeta'])
})
