import { describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter, type RouteComponent } from 'vue-router'
import { used } from '@/parts/forTests'
import { useGoing } from './going'

const page = { render: () => null }

/** A console of two pages, the script of one of which comes as ``script`` says. */
function consoleWith(script: () => Promise<RouteComponent>) {
  const router = createRouter({
    history: createMemoryHistory('/console/'),
    routes: [
      { path: '/', component: page },
      { path: '/other', component: page },
      { path: '/relay', component: script },
    ],
  })
  return { router, ...used(() => useGoing(), router) }
}

describe('going to another page', () => {
  it('is seen while its script is on its way', async () => {
    let come!: (script: RouteComponent) => void
    const { router, going, notLoaded, leave } = consoleWith(() => new Promise((go) => (come = go)))
    expect(going.value, 'the first page').toBe(true)
    await router.push('/')
    expect(going.value).toBe(false)
    const there = router.push('/relay')
    await vi.waitFor(() => expect(going.value).toBe(true))
    come(page)
    await there
    expect([going.value, notLoaded.value]).toEqual([false, ''])
    leave()
  })

  it('is still under way where a later click overtakes it', async () => {
    let come!: (script: RouteComponent) => void
    const { router, going, leave } = consoleWith(() => new Promise((go) => (come = go)))
    await router.push('/')
    const first = router.push('/other')
    const second = router.push('/relay')
    await first
    await vi.waitFor(() => expect(come).toBeDefined())
    expect(going.value).toBe(true)
    come(page)
    await second
    expect(going.value).toBe(false)
    leave()
  })

  it('says which page could not be had, until another one is', async () => {
    const { router, going, notLoaded, leave } = consoleWith(() =>
      Promise.reject(new TypeError('gone')),
    )
    await router.push('/')
    await expect(router.push('/relay?state=failed')).rejects.toThrow('gone')
    expect([going.value, notLoaded.value]).toEqual([false, '/console/relay?state=failed'])
    expect(router.currentRoute.value.path).toBe('/')
    await router.push('/other')
    expect(notLoaded.value).toBe('')
    leave()
  })
})
