import { afterEach, describe, expect, it, vi } from 'vitest'
import { service, used } from '@/parts/forTests'
import { useUndoing } from './useUndoing'

const LIST = 'GET /api/v1/pairings/{pairing_pk}/imports/{id}/deliveries'
const UNDO = 'POST /api/v1/operations/{id}/undo'
const delivery = (id: string, state = 'done', undoes: string | null = null) => ({
  id,
  undoes,
  job: { id: `job-${id}`, state },
})
const given = { pairing: 'p1', made: 'm1' }

describe('undoing an import', () => {
  afterEach(() => vi.restoreAllMocks())

  it('looks first at what brought entries in last and was not undone, and changes nothing', async () => {
    const asked = service({
      [LIST]: () => [delivery('d3', 'done', 'd2'), delivery('d2'), delivery('d1')],
      [UNDO]: () => [
        { title: 'Arriving', why: '', shows: false },
        { title: 'Review 1', why: '', shows: true },
        { title: 'Maps', why: 'learners have worked with it', shows: false },
      ],
    })
    const begun: string[] = []
    const { look, going, shown, staying } = used(() => useUndoing(given, (job) => begun.push(job)))
    await vi.waitFor(() => expect(look.isSuccess.value).toBe(true))
    expect(asked.slice(1).map((each) => [each.path.id, each.body])).toEqual([
      ['job-d1', { dry_run: true }],
    ])
    expect([going.value.length, shown.value]).toEqual([2, 1])
    expect(staying.value.map((each) => each.title)).toEqual(['Maps'])
    expect(begun).toEqual([])
  })

  it('tells of the operation that does it', async () => {
    service({
      [LIST]: () => [delivery('d1')],
      [UNDO]: ({ body }) => (body.dry_run ? [] : { id: 'undo-1' }),
    })
    const begun: string[] = []
    const { look, undo } = used(() => useUndoing(given, (job) => begun.push(job)))
    await vi.waitFor(() => expect(look.isSuccess.value).toBe(true))
    await undo.mutateAsync()
    expect(begun).toEqual(['undo-1'])
  })

  it('asks nobody where everything was undone, or the undoing of it has not ended well', async () => {
    const asked = service({ [LIST]: () => [delivery('d2', 'done', 'd1'), delivery('d1')] })
    const { look } = used(() => useUndoing(given, () => {}))
    await vi.waitFor(() => expect(look.data.value).toEqual([]))
    expect(asked).toHaveLength(1)
    vi.restoreAllMocks()
    service({ [LIST]: () => [delivery('d2', 'failed', 'd1'), delivery('d1')], [UNDO]: () => [] })
    const again = used(() => useUndoing(given, () => {}))
    await vi.waitFor(() => expect(again.look.isSuccess.value).toBe(true))
  })
})
