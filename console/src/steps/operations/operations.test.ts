import { useQuery } from '@tanstack/vue-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { Refusal, service, used } from '@/parts/forTests'
import { isGoing, type Operation, operationsQuery, useOperation } from './operations'

const LIST = 'GET /api/v1/operations'
const STEPS = 'GET /api/v1/operations/{id}/steps'
const UNDO = 'POST /api/v1/operations/{id}/undo'
const STOP = 'POST /api/v1/operations/{id}/stop'
const operation = (state: string, done = 0) =>
  ({ id: 'o1', pairing: 'p1', state, done }) as Operation

describe('operations', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => {
    vi.restoreAllMocks()
    vi.useRealTimers()
  })

  it('are read again and again while one is under way, and then no more', async () => {
    const states = ['queued', 'waiting', 'running']
    const asked = service({ [LIST]: () => ({ results: [operation(states.shift() ?? 'done')] }) })
    const { data, leave } = used(() => useQuery(operationsQuery({ pairing: 'p1' })))
    await vi.advanceTimersByTimeAsync(10_000)
    expect(data.value?.results.map((each) => [each.state, isGoing(each)])).toEqual([
      ['done', false],
    ])
    expect(asked).toHaveLength(4)
    expect(asked[0]?.query).toEqual({ pairing: 'p1', limit: 100 })
    leave()
  })

  it('show their steps, page after page, once opened, and again as they go on', async () => {
    const asked = service({
      [STEPS]: ({ query }) => ({
        results: [{ title: query.cursor ?? '1' }],
        next: query.cursor ? null : 'https://venn.example/steps?cursor=2',
      }),
    })
    const now = ref(operation('running', 3))
    const { open, steps, leave } = used(() => useOperation(now))
    await vi.advanceTimersByTimeAsync(100)
    expect(asked).toEqual([])
    open.value = true
    await vi.advanceTimersByTimeAsync(100)
    expect(steps.value?.map((each) => each.title)).toEqual(['1', '2'])
    now.value = operation('running', 4)
    await vi.advanceTimersByTimeAsync(100)
    expect(asked).toHaveLength(4)
    leave()
  })

  it('are undone after what that would do was shown, and shown no longer then', async () => {
    const asked = service({
      [LIST]: () => ({ results: [operation('done')] }),
      [UNDO]: ({ body }) => (body.dry_run ? [{ title: 'Quiz 1' }] : { id: 'o2' }),
    })
    const { look, undo, leave } = used(() => {
      useQuery(operationsQuery({}))
      return useOperation(ref(operation('done')))
    })
    await look.mutateAsync()
    expect(look.data.value).toEqual([{ title: 'Quiz 1' }])
    await undo.mutateAsync()
    await vi.advanceTimersByTimeAsync(100)
    expect(look.data.value).toBeUndefined()
    const undone = asked.filter((each) => each.call === UNDO)
    expect(undone.map((each) => each.body.dry_run)).toEqual([true, false])
    expect(asked.filter((each) => each.call === LIST)).toHaveLength(2)
    leave()
  })

  it('say what could not be done with them', async () => {
    service({ [STOP]: () => new Refusal(409, 'It has ended.') })
    const { stop, error, leave } = used(() => useOperation(ref(operation('done'))))
    await expect(stop.mutateAsync()).rejects.toThrow('It has ended.')
    expect(error.value?.message).toBe('It has ended.')
    leave()
  })
})
