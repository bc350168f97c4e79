import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { Refusal, service, used } from '@/parts/forTests'
import { usePointing } from './usePointing'

const COPIED = 'GET /api/v1/shells/{id}/copied'
const POINT = 'POST /api/v1/shells/{id}/copied'
const BEGIN = 'POST /api/v1/set-ups'
const page = { render: () => null }

async function pointing(answers: Parameters<typeof service>[0]) {
  const asked = service({
    'GET /api/v1/shells': () => ({ results: [{ id: 's1', label: 'HYD 210-01' }] }),
    'GET /api/v1/shells/{id}/consent': () => ({ agreed: true }),
    [COPIED]: () => ({ copied: true, links: 12 }),
    [POINT]: () => ({}),
    [BEGIN]: () => ({ id: 'u1' }),
    ...answers,
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', component: page },
      { path: '/set-up/:setUp', name: 'set-up', component: page },
    ],
  })
  await router.push('/')
  const found = used(() => usePointing(ref('s1')), router)
  await vi.waitFor(() => expect(found.found.value?.copied).toBe(true))
  const posted = () => asked.filter((each) => each.call.startsWith('POST'))
  return { posted, router, ...found }
}

describe('a copied shell', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is pointed as it is said, and then set up', async () => {
    const { posted, router, go, leave } = await pointing({})
    await go.mutateAsync('fresh')
    expect(posted().map((each) => [each.call, each.body])).toEqual([
      [POINT, { choice: 'fresh', agree: true }],
      [BEGIN, { sections: [{ shell: 's1', share: false, name: '' }], agree: true }],
    ])
    expect(router.currentRoute.value.fullPath).toBe('/set-up/u1?copied=')
    leave()
  })

  it('is not pointed twice where only what follows could not be begun', async () => {
    let well = false
    const { posted, router, go, leave } = await pointing({
      [BEGIN]: () => (well ? { id: 'u1' } : new Refusal(503, 'It is restarting.')),
    })
    await expect(go.mutateAsync('same')).rejects.toThrow('It is restarting.')
    expect(router.currentRoute.value.path).toBe('/')
    well = true
    await go.mutateAsync('same')
    expect(posted().map((each) => each.call)).toEqual([POINT, BEGIN, BEGIN])
    expect(router.currentRoute.value.params.setUp).toBe('u1')
    leave()
  })

  it('is not set up where its links could not be pointed', async () => {
    const { posted, go, leave } = await pointing({
      [POINT]: () => new Refusal(409, 'The shell has changed.'),
    })
    await expect(go.mutateAsync('same')).rejects.toThrow('The shell has changed.')
    expect(posted().map((each) => each.call)).toEqual([POINT])
    leave()
  })
})
