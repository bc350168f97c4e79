import { afterEach, describe, expect, it, vi } from 'vitest'
import { service, used } from '@/parts/forTests'
import { useTakingBack } from './useTakingBack'

const TAKE = 'POST /api/v1/pairings/{pairing_pk}/placements/take-back'

describe('taking links back', () => {
  afterEach(() => vi.restoreAllMocks())

  it('first says which columns hold scores, keeps them unless told otherwise, then does it', async () => {
    const asked = service({
      [TAKE]: ({ body }) =>
        body.dry_run
          ? [
              { title: 'Practice set 1A', scores: 6 },
              { title: 'Practice set 1B', scores: 0 },
            ]
          : { id: 'r1' },
    })
    const done: unknown[] = []
    const given = { pairing: 'p1', placements: ['a', 'b'] }
    const { look, held, scores, go } = used(() => useTakingBack(given, (made) => done.push(made)))
    await vi.waitFor(() => expect(look.isSuccess.value).toBe(true))
    expect(held.value.map((each) => each.title)).toEqual(['Practice set 1A'])
    expect(done).toEqual([])
    scores.value = 'export'
    await go.mutateAsync()
    expect(asked.map((each) => each.body)).toEqual([
      { placements: ['a', 'b'], scores: 'keep', dry_run: true },
      { placements: ['a', 'b'], scores: 'export', dry_run: false },
    ])
    expect(done).toEqual([{ id: 'r1' }])
  })
})
