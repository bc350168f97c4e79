import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { Refusal, service, used } from '@/parts/forTests'
import { useState } from './useState'

const AHEAD = 'GET /api/v1/pairings/{id}/consequences'
const CHANGE = 'PATCH /api/v1/pairings/{id}'
const CONSENT = 'GET /api/v1/shells/{id}/consent'
const pairing = ref({ id: 'p1', state: 'live', shell: { id: 's1' } } as Schemas['Pairing'])

describe('a pairing’s state', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is changed to that whose effects are shown, and to no other', async () => {
    let late: (() => void) | undefined
    const asked = service({
      [AHEAD]: ({ query }) =>
        query.state === 'paused'
          ? new Promise((go) => (late = () => go({ consequences: ['Reports are kept.'] })))
          : { consequences: ['Links stop working.'] },
      [CHANGE]: () => pairing.value,
      [CONSENT]: () => ({ agreed: true }),
    })
    const { foresee, target, change, leave } = used(() => useState(pairing))
    foresee.mutate('paused')
    await vi.waitFor(() => expect(late).toBeDefined())
    expect(target.value).toBeUndefined()
    foresee.mutate('ended')
    await vi.waitFor(() => expect(target.value).toBe('ended'))
    late!() // the first click's answer comes last
    await new Promise((later) => setTimeout(later, 20))
    expect([target.value, foresee.data.value?.consequences]).toEqual([
      'ended',
      ['Links stop working.'],
    ])
    expect(asked.some((each) => each.call === CHANGE)).toBe(false)
    await change.mutateAsync(target.value!)
    expect(asked.find((each) => each.call === CHANGE)?.body).toEqual({ state: 'ended' })
    expect(target.value).toBeUndefined()
    leave()
  })

  it('is not offered where its effects could not be told', async () => {
    service({ [AHEAD]: () => new Refusal(503, 'Later.'), [CONSENT]: () => ({ agreed: true }) })
    const { foresee, target, error, leave } = used(() => useState(pairing))
    await expect(foresee.mutateAsync('ended')).rejects.toThrow('Later.')
    expect(target.value).toBeUndefined()
    expect(error.value?.message).toBe('Later.')
    leave()
  })
})
