import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { service, used } from '@/parts/forTests'
import { useFindings } from './useFindings'

const LIST = 'GET /api/v1/pairings/{pairing_pk}/comparisons/{comparison_pk}/findings'

async function findings(address: string, compared = true) {
  const asked = service({ [LIST]: () => ({ results: [{ id: 'f1' }], next: null }) })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/reconcile', component: { render: () => null } }],
  })
  await router.push(address)
  const comparison = ref(compared ? ({ id: 'c1' } as Schemas['Comparison']) : null)
  return { asked, router, ...used(() => useFindings(ref('p1'), comparison), router) }
}

describe('the findings that an address asks for', () => {
  afterEach(() => vi.restoreAllMocks())

  it('are those that are open, where it names none', async () => {
    const { asked, rows, filtered, view, leave } = await findings('/reconcile')
    await vi.waitFor(() => expect(rows.value).toHaveLength(1))
    expect(asked[0]?.query).toMatchObject({ kept: 'false' })
    expect([filtered.value, view.value]).toEqual([false, 'matrix'])
    leave()
  })

  it('are all of one cell, kept ones too', async () => {
    const { asked, cell, filtered, leave } = await findings('/reconcile?placement=l1&person=s1')
    await vi.waitFor(() => expect(asked).toHaveLength(1))
    expect(asked[0]?.query).toMatchObject({ placement: 'l1', person: 's1' })
    expect(asked[0]?.query).not.toHaveProperty('kept')
    expect([cell.value, filtered.value]).toEqual([{ placement: 'l1', person: 's1' }, true])
    leave()
  })

  it('are of nobody’s address: what it repeats or does not know is not sent', async () => {
    const { asked, filters, view, leave } = await findings(
      '/reconcile?kind=unsent&kind=other&sort=up&view=pie&item=i1',
    )
    await vi.waitFor(() => expect(asked).toHaveLength(1))
    expect([filters.value, view.value]).toEqual([{ item: 'i1' }, 'matrix'])
    leave()
  })

  it('are narrowed beside the same picture', async () => {
    const { narrow, choose, router, leave } = await findings('/reconcile?view=trend&kind=unsent')
    expect(narrow({ side: 'publisher' })).toEqual({ query: { view: 'trend', side: 'publisher' } })
    await choose('l1', 's1')
    expect(router.currentRoute.value.query).toEqual({
      view: 'trend',
      placement: 'l1',
      person: 's1',
    })
    leave()
  })

  it('are not asked for before anything was compared', async () => {
    const { asked, rows, leave } = await findings('/reconcile', false)
    await new Promise((later) => setTimeout(later, 30))
    expect([asked, rows.value]).toEqual([[], []])
    leave()
  })
})
