import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { service, used } from '@/parts/forTests'
import { useDrift } from './useDrift'

const LIST = 'GET /api/v1/pairings/{pairing_pk}/drifts'
const LOOK = 'POST /api/v1/pairings/{pairing_pk}/drifts'
const MEND = 'POST /api/v1/pairings/{pairing_pk}/drifts/mend'
const WAY = 'POST /api/v1/pairings/{pairing_pk}/drifts/way'
const JOB = 'GET /api/v1/jobs/{id}'
const drifts = [
  { id: 'a', side: 'publisher' },
  { id: 'b', side: 'shell' },
  { id: 'c', side: 'publisher' },
]

async function drift(answers: Parameters<typeof service>[0] = {}) {
  const asked = service({
    'GET /api/v1/pairings/{id}': () => ({ id: 'p1' }),
    [LIST]: () => ({ way: 'ask', drifts }),
    [LOOK]: () => ({ id: 'j1' }),
    [JOB]: () => ({ id: 'j1', state: 'done' }),
    [MEND]: ({ body }) => ({ rollout: body.way === 'follow' ? { id: 'r1' } : null }),
    [WAY]: () => ({}),
    ...answers,
  })
  const found = used(() => useDrift(ref('p1')))
  await vi.waitFor(() => expect(found.every.value).toEqual(['a', 'b', 'c']))
  const calls = (call: string) => asked.filter((each) => each.call === call)
  return { calls, ...found }
}

describe('what was changed since links were placed', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is shown by the side that changed it', async () => {
    const { groups, leave } = await drift()
    expect(groups.value.map((each) => [each.name, each.rows.map((row) => row.id)])).toEqual([
      ['publisher', ['a', 'c']],
      ['shell', ['b']],
    ])
    leave()
  })

  it('is looked for again, and read once that has ended', async () => {
    const { calls, look, running, leave } = await drift()
    await look.mutateAsync()
    await vi.waitFor(() => expect(calls(LIST)).toHaveLength(2))
    expect([running.value, calls(MEND).length]).toEqual([false, 0])
    leave()
  })

  it('is brought in or kept, only what was named, and read again', async () => {
    const { calls, mend, begun, leave } = await drift()
    await mend.mutateAsync({ drifts: ['a'], way: 'follow' })
    expect(begun.value.map((each) => each.id)).toEqual(['r1'])
    await mend.mutateAsync({ drifts: ['b', 'c'], way: 'keep' })
    expect(begun.value, 'keeping writes nothing').toHaveLength(1)
    expect(calls(MEND).map((each) => each.body)).toEqual([
      { drifts: ['a'], way: 'follow' },
      { drifts: ['b', 'c'], way: 'keep' },
    ])
    await vi.waitFor(() => expect(calls(LIST).length).toBeGreaterThan(1))
    leave()
  })

  it('is handled in one way from now on, which mends nothing by that', async () => {
    const { calls, choose, leave } = await drift()
    await choose.mutateAsync('follow')
    expect(calls(WAY).map((each) => each.body)).toEqual([{ way: 'follow' }])
    expect(calls(MEND)).toEqual([])
    await vi.waitFor(() => expect(calls(LIST)).toHaveLength(2))
    leave()
  })
})
