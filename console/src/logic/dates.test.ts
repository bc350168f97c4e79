import { describe, expect, it } from 'vitest'
import { speak } from '@/words'
import { ago, dayOf, inZone, zoneName } from './dates'

describe('how long ago', () => {
  const now = Date.parse('2026-11-29T12:00:00Z')
  it('is said in the largest unit that fits', () => {
    expect(ago('2026-11-29T11:59:40Z', now)).toBe('this minute')
    expect(ago('2026-11-29T11:15:00Z', now)).toBe('45 minutes ago')
    expect(ago('2026-11-29T09:00:00Z', now)).toBe('3 hours ago')
    expect(ago('2026-11-28T12:00:00Z', now)).toBe('yesterday')
  })
})

describe('days and moments', () => {
  it('are written as the reader writes them', async () => {
    expect(dayOf('2026-11-29')).toBe('Nov 29')
    await speak('es')
    expect(dayOf('2026-11-29')).toBe('29 nov')
    expect(inZone('2027-03-12T23:59:00-06:00', 'America/Chicago')).toContain('23:59')
    expect(zoneName('America/Chicago')).toBe('hora central')
    await speak('en')
  })
  it('are of a zone that is named as people name it', () => {
    expect(zoneName('America/Chicago')).toBe('Central Time')
    expect(zoneName('')).toBe('UTC')
  })
})
