import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import type { Schemas } from '@/api/client'
import { Refusal, service, used } from '@/parts/forTests'
import { useChange } from './useChange'

const DEPLOY = 'POST /api/v1/pairings/{pairing_pk}/rollouts'
const placements = [{ item: 'a' }, { item: 'b' }] as unknown as Schemas['Placement'][]

function changing(answer: () => unknown = () => ({ shells: [] })) {
  const begun: unknown[] = []
  const asked = service({
    [DEPLOY]: ({ body }) => (body.dry_run ? answer() : { rollouts: [{ id: 'r1' }] }),
  })
  const found = used(() => useChange({ pairing: 'p1', placements }, (made) => begun.push(...made)))
  return { asked, begun, ...found }
}
const settle = async () => {
  await nextTick()
  await vi.advanceTimersByTimeAsync(500)
}

describe('changing placed links', () => {
  beforeEach(() => vi.useFakeTimers())
  afterEach(() => {
    vi.useRealTimers()
    vi.restoreAllMocks()
  })

  it('asks what would come of it, of these items and of nothing else', async () => {
    const { asked, plan, begun } = changing()
    await settle()
    expect(asked.map((each) => each.body)).toEqual([
      {
        items: ['a', 'b'],
        update: true,
        undated: 'column',
        visible: false,
        applies: ['visible'],
        dry_run: true,
      },
    ])
    expect(plan.value).toEqual({ shells: [] })
    expect(begun).toEqual([])
  })

  it('asks nothing while the change is not whole: a move without a folder', async () => {
    const { asked, way, value, plan } = changing()
    await settle()
    way.value = 'move'
    await settle()
    expect(asked).toHaveLength(1)
    expect(plan.value).toBeUndefined()
    value.value = '  Homework '
    await settle()
    expect(asked.at(-1)?.body).toMatchObject({ folder: 'Homework', move: true, dry_run: true })
  })

  it('does it when told, and says which rollouts do', async () => {
    const { asked, go, begun } = changing()
    await settle()
    await go.mutateAsync()
    expect(asked.at(-1)?.body).toMatchObject({ visible: false, dry_run: false })
    expect(begun).toEqual([{ id: 'r1' }])
  })

  it('says why the platform would not take it', async () => {
    const { error } = changing(() => new Refusal(422, 'The links are locked.', 'Unlock them.'))
    await settle()
    expect(error.value).toMatchObject({ message: 'The links are locked.', remedy: 'Unlock them.' })
  })
})
