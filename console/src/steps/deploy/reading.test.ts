import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { Refusal, service, used } from '@/parts/forTests'
import { useFirstReading } from './reading'

const READ = 'POST /api/v1/pairings/{pairing_pk}/imports'
const JOB = 'GET /api/v1/jobs/{id}'
const plan = (pairing: string, unread: boolean) => ({ pairing, unread }) as Schemas['Plan']

function reading(answers: Parameters<typeof service>[0]) {
  const asked = service(answers)
  const plans = ref<Schemas['Plan'][]>()
  const again = vi.fn()
  const { readings, leave } = used(() => ({ readings: useFirstReading(plans, again) }))
  return { asked, plans, again, readings, leave }
}

describe('the first reading of sections', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => {
    vi.restoreAllMocks()
    vi.useRealTimers()
  })

  it('reads each of which nothing is known once, and plans again', async () => {
    const states = ['running', 'done']
    const { asked, plans, again, readings, leave } = reading({
      [READ]: () => ({ job: { id: 'j1' } }),
      [JOB]: () => ({ state: states.shift() }),
    })
    plans.value = [plan('p1', false), plan('p2', true)]
    await vi.advanceTimersByTimeAsync(0)
    expect(readings.get('p2')?.words).not.toBe('')
    plans.value = [plan('p1', false), plan('p2', true)]
    await vi.advanceTimersByTimeAsync(2_000)
    expect(asked.filter((each) => each.call === READ).map((each) => each.path)).toEqual([
      { pairing_pk: 'p2' },
    ])
    expect(readings.get('p2')).toEqual({ words: '', failed: false })
    expect(again).toHaveBeenCalledOnce()
    leave()
  })

  it.each([
    ['the publisher does not answer', () => ({ job: { id: 'j1' } })],
    ['it is refused', () => new Refusal(409, 'It is busy.')],
  ])('says of which sections it failed, where %s', async (_, begin) => {
    const { plans, again, readings, leave } = reading({
      [READ]: begin,
      [JOB]: () => ({ state: 'failed', message: 'It is busy.', remedy: 'Wait.' }),
    })
    plans.value = [plan('p2', true)]
    await vi.advanceTimersByTimeAsync(100)
    expect(readings.get('p2')?.failed).toBe(true)
    expect(readings.get('p2')?.words).toContain('It is busy.')
    expect(again).toHaveBeenCalledOnce()
    leave()
  })

  it('asks for nothing once the page was left', async () => {
    const { asked, plans, again, leave } = reading({
      [READ]: () => ({ job: { id: 'j1' } }),
      [JOB]: () => ({ state: 'running' }),
    })
    plans.value = [plan('p2', true)]
    await vi.advanceTimersByTimeAsync(1_200)
    leave()
    const before = asked.length
    await vi.advanceTimersByTimeAsync(5_000)
    expect(asked).toHaveLength(before)
    expect(again).not.toHaveBeenCalled()
  })
})
