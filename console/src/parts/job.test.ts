import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { pairingQuery } from '@/steps/pair/queries'
import { useQuery } from '@tanstack/vue-query'
import { Refusal, service, used } from './forTests'
import { useJob } from './job'

const JOB = 'GET /api/v1/jobs/{id}'
const PAIRING = 'GET /api/v1/pairings/{id}'

describe('a job', () => {
  afterEach(() => {
    vi.restoreAllMocks()
    vi.useRealTimers()
  })

  it('is followed to its end, and then the pairing is read again', async () => {
    const states = ['queued', 'running', 'done', 'done']
    const asked = service({
      [JOB]: () => ({ id: 'j1', state: states.shift() }),
      [PAIRING]: () => ({ id: 'p1' }),
    })
    const id = ref<string>()
    const { job, running, leave } = used(() => {
      useQuery(pairingQuery('p1'))
      return useJob(id, ref('p1'))
    })
    const calls = (call: string) => asked.filter((each) => each.call === call).length
    await vi.waitFor(() => expect(calls(PAIRING)).toBe(1))
    expect([running.value, calls(JOB)]).toEqual([false, 0])
    id.value = 'j1'
    await vi.waitFor(() => expect(running.value).toBe(true))
    await vi.waitFor(() => expect(job.value?.state).toBe('done'), 3_000)
    await vi.waitFor(() => expect(calls(PAIRING)).toBe(2))
    expect([running.value, calls(JOB)]).toEqual([false, 3])
    leave()
  })

  it('is asked for less often while the service is in trouble, and found again', async () => {
    vi.useFakeTimers()
    let well = false
    const asked = service({
      [JOB]: () => (well ? { id: 'j1', state: 'done' } : new Refusal(503, 'It is restarting.')),
    })
    const { job, running, leave } = used(() => useJob(ref('j1'), ref('p1')))
    await vi.advanceTimersByTimeAsync(3_900)
    expect(asked).toHaveLength(1)
    expect(running.value).toBe(true)
    well = true
    await vi.advanceTimersByTimeAsync(4_500)
    expect(job.value?.state).toBe('done')
    expect(running.value).toBe(false)
    leave()
  })
})
