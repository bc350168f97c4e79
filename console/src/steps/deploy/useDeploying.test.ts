import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { service, used } from '@/parts/forTests'
import { useDeploying } from './useDeploying'

const ROLLOUTS = 'POST /api/v1/pairings/{pairing_pk}/rollouts'
const item = (id: string, unit: string) => ({ id, unit, title: id, category: '' })

async function deploying(address: string) {
  const asked = service({
    'GET /api/v1/pairings/{id}': () => ({
      shell: { label: 'HYD 210-01', timezone: 'America/Chicago' },
    }),
    'GET /api/v1/pairings/{pairing_pk}/items': () => ({
      results: [item('a', 'Unit 1'), item('b', 'Unit 2'), item('c', 'Unit 2')],
      next: null,
    }),
    'GET /api/v1/pairings/{pairing_pk}/catalogue': () => [],
    'GET /api/v1/shells': () => ({
      results: [{ label: 'HYD 210-02', pairing: 'p2', state: 'live' }],
    }),
    [ROLLOUTS]: ({ body }) =>
      body.dry_run ? { shells: [{ pairing: 'p1', unread: false }] } : { rollouts: [{ id: 'r1' }] },
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/deploy', component: { render: () => null } }],
  })
  await router.push(address)
  const found = used(() => useDeploying(ref('p1')), router)
  await vi.waitFor(() => expect(found.rows.value).toHaveLength(3))
  const sent = () => asked.filter((each) => each.call === ROLLOUTS).map((each) => each.body)
  return { sent, ...found }
}

describe('deploying', () => {
  beforeEach(() => vi.spyOn(window, 'scrollTo').mockImplementation(() => {}))
  afterEach(() => {
    vi.restoreAllMocks()
    sessionStorage.clear()
  })

  it('begins with what an address names, without what is gone since', async () => {
    const { chosen, units, kept, leave } = await deploying('/deploy?chosen=c,gone,b')
    await vi.waitFor(() => expect(chosen.value).toEqual(['c', 'b']))
    expect([units.value, kept.value]).toEqual([['Unit 2'], false])
    leave()
  })

  it('keeps what was chosen while another page is looked at, until it is placed', async () => {
    const first = await deploying('/deploy')
    first.chosen.value = ['a', 'b']
    first.shift.value = 3
    first.how.show = 'hidden'
    await vi.waitFor(() => expect(first.plans.value).toHaveLength(1))
    first.leave()
    const again = await deploying('/deploy')
    expect([again.chosen.value, again.shift.value, again.how.show, again.kept.value]).toEqual([
      ...[['a', 'b'], 3, 'hidden', true],
    ])
    again.deploy()
    await vi.waitFor(() => expect(again.begun.value.map((each) => each.id)).toEqual(['r1']))
    expect(again.sent().at(-1)).toMatchObject({ items: ['a', 'b'], visible: false, shift_days: 3 })
    expect(again.chosen.value).toEqual([])
    again.leave()
    const later = await deploying('/deploy')
    expect([later.chosen.value, later.kept.value]).toEqual([[], false])
    later.leave()
  })

  it('shows what will happen before anything does, in every section that is ticked', async () => {
    const { chosen, sections, into, plans, sent, leave } = await deploying('/deploy')
    await vi.waitFor(() => expect(sections.value).toHaveLength(1))
    chosen.value = ['a']
    Object.assign(sections.value[0]!, { on: true, shift: -1, folder: ' Homework ' })
    await vi.waitFor(() => expect(plans.value).toHaveLength(1))
    expect(into.value.map((each) => each.label)).toEqual(['HYD 210-01', 'HYD 210-02'])
    expect(sent().map((each) => each.dry_run)).toEqual([true])
    expect(sent()[0]?.sections).toEqual([
      { pairing: 'p2', shift_days: -1, folder: 'Homework', folders: {} },
    ])
    leave()
  })

  it('forgets all of it when one starts over', async () => {
    const { chosen, how, shift, place, wishes, startOver, kept, leave } = await deploying('/deploy')
    chosen.value = ['a']
    shift.value = 7
    how.pattern = '{title}'
    place.value = { into: 'folder', folder: 'f1', after: '' } as never
    wishes.value = { a: { points: '5' } }
    startOver()
    expect([chosen.value, shift.value, how.pattern, wishes.value]).toEqual([[], 0, '', {}])
    expect([place.value.into, kept.value]).toEqual(['unit', false])
    leave()
  })
})
