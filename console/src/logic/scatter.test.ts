import { describe, expect, it } from 'vitest'
import { dotsOf, MOST, NONE } from './scatter'

describe('the scatter', () => {
  it('draws equal cells as one dot, a missing score beside zero, and trouble above agreement', () => {
    const dots = dotsOf(
      [
        ['agree', 'edited', null],
        ['unsent', 'agree', 'agree'],
      ],
      [
        [
          [0.5, 0.5],
          [0.5, 1],
          [null, null],
        ],
        [
          [0.8, null],
          [0.5, 0.5],
          [2, 2],
        ],
      ],
    )
    expect(dots.map((dot) => [dot.kind, dot.x, dot.y, dot.count])).toEqual([
      ['agree', 0.5, 0.5, 2],
      ['agree', MOST, MOST, 1],
      ['edited', 0.5, 1, 1],
      ['unsent', 0.8, NONE, 1],
    ])
  })
})
