import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { Refusal, service, used } from '@/parts/forTests'
import { useSeveral } from './useSeveral'

const shell = (pairing: string) => ({ id: pairing, pairing }) as unknown as Schemas['Shell']
const CHANGE = 'PATCH /api/v1/pairings/{id}'

describe('one deed in several shells', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is done in each in turn; what one refuses keeps no other back', async () => {
    const asked = service({
      [CHANGE]: ({ path }) =>
        path.id === 'b' ? new Refusal(409, 'No link is placed.', 'Deploy items first.') : {},
    })
    const { run, outcomes, busy } = used(() => useSeveral(ref(['a', 'b', 'c'].map(shell))))
    const done = run('relay_on')
    expect(busy.value).toBe('relay_on')
    await done
    expect(asked.map((each) => [each.path.id, each.body])).toEqual(
      ['a', 'b', 'c'].map((id) => [id, { relay_on: true }]),
    )
    expect(outcomes.value.map((each) => each.well)).toEqual([true, false, true])
    expect(outcomes.value[1]?.words).toBe('No link is placed. Deploy items first.')
    expect(busy.value).toBeUndefined()
  })

  it('says of a service that does not answer no more than that, and begins again empty', async () => {
    service({
      [CHANGE]: () => {
        throw new TypeError('Failed to fetch')
      },
    })
    const { run, outcomes } = used(() => useSeveral(ref([shell('a')])))
    await run('relay_off')
    expect(outcomes.value[0]).toMatchObject({ well: false })
    expect(outcomes.value[0]?.words).not.toContain('Failed to fetch')
    service({ [CHANGE]: () => ({}) })
    await run('relay_off')
    expect(outcomes.value.map((each) => each.well)).toEqual([true])
  })
})
