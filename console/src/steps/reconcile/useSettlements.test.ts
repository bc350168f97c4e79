import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import { service, used } from '@/parts/forTests'
import { useSettlements } from './useSettlements'

const LIST = 'GET /api/v1/pairings/{pairing_pk}/settlements'
const UNDO = 'POST /api/v1/operations/{id}/undo'
const CARRY = 'POST /api/v1/pairings/{pairing_pk}/settlements/{id}/carry-out'
const JOB = 'GET /api/v1/jobs/{id}'
const row = (id: string, state: string) =>
  ({ id, state, job: state === 'proposed' ? null : { id: `job of ${id}` } }) as never
const rows = [row('a', 'done'), row('b', 'done'), row('c', 'proposed')]

describe('what was settled', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is apart from what is only proposed', async () => {
    service({ [LIST]: () => ({ results: rows, next: null }) })
    const { proposals, others, leave } = used(() => useSettlements(ref('p1')))
    await vi.waitFor(() => expect(proposals.value).toHaveLength(1))
    expect(others.value.map((each) => each.id)).toEqual(['a', 'b'])
    leave()
  })

  it('is undone beside what undoing it takes back, whichever answer comes last', async () => {
    let late: (() => void) | undefined
    const asked = service({
      [LIST]: () => ({ results: rows, next: null }),
      [UNDO]: ({ path, body }) =>
        !body.dry_run
          ? { id: 'undoing' }
          : path.id === 'job of a'
            ? new Promise((go) => (late = () => go([{}, {}, {}])))
            : [{}],
      [JOB]: ({ path }) => ({ id: path.id, state: 'running' }),
    })
    const { seen, asked: shown, undo, job, leave } = used(() => useSettlements(ref('p1')))
    const [a, b] = rows as Schemas['SettlementLine'][]
    seen.mutate(a!)
    await vi.waitFor(() => expect(late).toBeDefined())
    expect(shown.value).toBeUndefined()
    await seen.mutateAsync(b!)
    late!()
    await new Promise((later) => setTimeout(later, 20))
    expect([shown.value, seen.data.value]).toEqual(['b', [{}]])
    const undone = () => asked.filter((each) => each.call === UNDO && !each.body.dry_run)
    expect(undone()).toEqual([])
    await undo.mutateAsync(b!)
    expect(undone().map((each) => each.path.id)).toEqual(['job of b'])
    await vi.waitFor(() => expect(job.value?.id).toBe('undoing'))
    leave()
  })

  it('is followed once a proposal is carried out', async () => {
    service({
      [LIST]: () => ({ results: rows, next: null }),
      [CARRY]: () => ({ job: { id: 'j9' } }),
      [JOB]: ({ path }) => ({ id: path.id, state: 'done' }),
    })
    const { carry, job, leave } = used(() => useSettlements(ref('p1')))
    await carry.mutateAsync('c')
    await vi.waitFor(() => expect(job.value?.id).toBe('j9'))
    leave()
  })
})
