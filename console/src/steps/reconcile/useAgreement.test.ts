import { describe, expect, it } from 'vitest'
import { age, days, share } from './useAgreement'

describe('how far a pairing agrees', () => {
  it('is all of it only where all of it does', () => {
    expect(share({ agree: 1000, cells: 1000 })).toBe(100)
    expect(share({ agree: 9999, cells: 10_000 })).toBe(99)
    expect(share({ agree: 0, cells: 3 })).toBe(0)
    expect(share({ agree: 0, cells: 0 })).toBeNull()
  })
  it('is told with how long something has been open', () => {
    const ago = (hours: number) => new Date(Date.now() - hours * 3_600_000).toISOString()
    expect([days(ago(1)), days(ago(49)), days(null)]).toEqual([0, 2, null])
    expect(age(null)).toBe('')
    expect(age(ago(2))).toBe('since today')
    expect(age(ago(50))).toContain('2 days')
  })
})
