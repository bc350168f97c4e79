import { describe, expect, it } from 'vitest'
import { bars, spanOf } from './relay'

describe('relay', () => {
  it('says a length of time in words that fit its size', () => {
    expect([spanOf(340), spanOf(2_449), spanOf(180_000), spanOf(7_200_000), spanOf(null)]).toEqual([
      '340 ms',
      '2.4 s',
      '3 min',
      '2 h',
      '–',
    ])
  })

  it('draws received and accepted on one scale, inside the line', () => {
    const chart = {
      since: '2027-03-01T00:00:00Z',
      until: '2027-03-01T10:00:00Z',
      minutes: 30,
      buckets: [
        { at: '2027-02-28T23:45:00Z', received: 4, accepted: 2, lag_ms: 900 },
        { at: '2027-03-01T09:59:00Z', received: 0, accepted: 8, lag_ms: null },
      ],
    }
    const [first, last] = bars(chart, 600, 50)
    expect([first!.x, first!.up, first!.down]).toEqual([0, 25, 12.5])
    expect(last!.down).toBe(50)
    expect(last!.x + last!.width).toBeLessThanOrEqual(600)
  })
})
