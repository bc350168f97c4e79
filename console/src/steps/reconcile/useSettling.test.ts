import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { service, used } from '@/parts/forTests'
import type { Wanted } from './remedies'
import { useSettling } from './useSettling'

const SETTLE = 'POST /api/v1/pairings/{pairing_pk}/settlements'
const JOB = 'GET /api/v1/jobs/{id}'
const steps = Array.from({ length: 30 }, (_, number) => ({ title: `step ${number}` }))

function settling(state: string) {
  const asked = service({
    [SETTLE]: ({ body }) =>
      body.dry_run
        ? { steps, settlement: null }
        : { steps, settlement: { state, job: state === 'proposed' ? null : { id: 'j1' } } },
    [JOB]: () => ({ id: 'j1', state: 'running' }),
  })
  const wanted = ref({ findings: ['f1'] } as unknown as Wanted)
  const found = used(() => useSettling(ref('p1'), ref('c1'), wanted))
  return { asked, wanted, ...found }
}
const written = (asked: ReturnType<typeof settling>['asked']) =>
  asked.filter((each) => each.call === SETTLE && !each.body.dry_run)

describe('settling', () => {
  afterEach(() => vi.restoreAllMocks())

  it('shows what it would write, the first of many at first, and writes nothing by that', async () => {
    const { asked, preview, steps: shown, unfolded, wanted, leave } = settling('running')
    await vi.waitFor(() => expect(preview.value).toBeDefined())
    expect(shown.value).toHaveLength(12)
    unfolded.value = true
    expect(shown.value).toHaveLength(30)
    wanted.value = { findings: ['f1', 'f2'] } as unknown as Wanted
    await vi.waitFor(() => expect(asked).toHaveLength(2))
    expect(asked[1]?.body).toEqual({ comparison: 'c1', findings: ['f1', 'f2'], dry_run: true })
    expect(written(asked)).toEqual([])
    leave()
  })

  it('writes what was shown, and is followed while it does', async () => {
    const { asked, go, running, job, proposed, leave } = settling('running')
    await go.mutateAsync()
    expect(written(asked).map((each) => each.body)).toEqual([
      { comparison: 'c1', findings: ['f1'], dry_run: false },
    ])
    await vi.waitFor(() => expect(job.value?.state).toBe('running'))
    expect([running.value, proposed.value]).toEqual([true, false])
    leave()
  })

  it('is only proposed where another has to agree: nothing runs', async () => {
    const { go, running, proposed, leave } = settling('proposed')
    await go.mutateAsync()
    expect([running.value, proposed.value]).toEqual([false, true])
    leave()
  })
})
