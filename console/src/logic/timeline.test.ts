import { describe, expect, it } from 'vitest'
import { placesOf } from './timeline'

describe('the time line of a cell', () => {
  it('keeps the order, the ends and some of the distances', () => {
    const places = placesOf(
      ['2027-01-01', '2027-01-02', '2027-01-11'].map((at) => ({ at, share: 1 })),
    )
    expect(places).toEqual([0, 0.3, 1])
    expect(placesOf([{ at: '2027-01-01', share: null }])).toEqual([0.5])
  })
})
