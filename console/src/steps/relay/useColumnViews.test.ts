import { afterEach, describe, expect, it, vi } from 'vitest'
import { service, used } from '@/parts/forTests'
import { useColumnViews } from './useColumnViews'

const TURN = 'POST /api/v1/pairings/{pairing_pk}/column-views'

describe('showing columns to learners', () => {
  afterEach(() => vi.restoreAllMocks())

  it('says how many were turned, not told of, and not turned, with the reason', async () => {
    const asked = service({
      [TURN]: () => [
        { result: 'done', reason: '' },
        { result: 'done', reason: '' },
        { result: 'unknown', reason: '' },
        { result: 'failed', reason: 'the column is gone' },
      ],
    })
    const { show, turned } = used(() => useColumnViews(() => 'p1'))
    expect(turned.value).toBe('')
    await show.mutateAsync(false)
    expect(asked).toMatchObject([
      { call: TURN, path: { pairing_pk: 'p1' }, body: { placements: [], shown: false } },
    ])
    const parts = turned.value.split('; ')
    expect(parts[0]).toMatch(/^2 /)
    expect(parts[1]).toMatch(/1/)
    expect(parts.at(-1)).toContain('the column is gone')
    await show.mutateAsync(true)
    expect(turned.value.split('; ')[0]).not.toBe(parts[0])
  })
})
