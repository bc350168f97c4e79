import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { service, used } from '@/parts/forTests'
import { scheme } from './preferences'
import { useCommands } from './useCommands'

const NAMES = ['today', 'shells', 'operations', 'agreement', 'files', 'accounts', 'notices']
const STEPS = ['pair', 'content', 'deploy', 'placed', 'changes', 'relay', 'reconcile', 'activity']
const page = { render: () => null }

async function commandsAt(address: string, first = '') {
  service({
    'GET /api/v1/search': () => [
      { kind: 'item', title: 'Practice set 1A', detail: 'HYD 210-02', link: '/shells?q=1A' },
    ],
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      ...NAMES.map((name) => ({ name, path: `/${name}`, component: page })),
      ...STEPS.map((name) => ({ name, path: `/pairings/:pairing/${name}`, component: page })),
      { path: '/set-up', component: page },
      { path: '/access', component: page },
      { name: 'help', path: '/help/:page', component: page },
    ],
  })
  await router.push(address)
  const words = ref(first)
  const closed = vi.fn()
  const found = used(() => useCommands(words, closed), router)
  return { router, words, closed, ...found }
}

describe('what can be gone to', () => {
  afterEach(() => vi.restoreAllMocks())

  it('are a shell’s steps only where one is in a shell', async () => {
    const outside = await commandsAt('/today')
    expect(outside.commands.value.map((each) => each.label)).not.toContain('Reconcile')
    const inside = await commandsAt('/pairings/p1/relay')
    const step = inside.commands.value.find((each) => each.label === 'Reconcile')!
    step.run()
    await vi.waitFor(() => expect(inside.router.currentRoute.value.name).toBe('reconcile'))
    expect(inside.router.currentRoute.value.params.pairing).toBe('p1')
    expect(inside.closed).toHaveBeenCalledOnce()
  })

  it('fits every word in whatever case, and has what the service found before it', async () => {
    const { commands, words, router } = await commandsAt('/today')
    words.value = 'OPERA'
    expect(commands.value.map((each) => each.label)).toEqual(['Operations'])
    words.value = 'practice set'
    await vi.waitFor(() => expect(commands.value.map((each) => each.kind)).toEqual(['item']))
    commands.value[0]!.run()
    await vi.waitFor(() => expect(router.currentRoute.value.fullPath).toBe('/shells?q=1A'))
  })

  it('are help pages too, by their titles or as help', async () => {
    const { commands, words, router } = await commandsAt('/today')
    expect(commands.value.map((each) => each.label)).not.toContain('Your first day')
    words.value = 'help day'
    expect(commands.value.map((each) => each.label)).toEqual(['Your first day'])
    commands.value[0]!.run()
    await vi.waitFor(() => expect(router.currentRoute.value.path).toBe('/help/first-day'))
  })

  it('asks the service of no single letter', async () => {
    const { commands, isFetching } = await commandsAt('/today', 'x')
    await new Promise((later) => setTimeout(later, 200))
    expect(isFetching.value).toBe(false)
    expect(commands.value.every((each) => each.kind !== 'item')).toBe(true)
  })

  it('turns the colors, and says the other way round then', async () => {
    const { commands } = await commandsAt('/today')
    const turn = () => commands.value.at(-1)!
    const [before, label] = [scheme.value, turn().label]
    turn().run()
    expect(scheme.value).not.toBe(before)
    expect(turn().label).not.toBe(label)
    turn().run()
    expect(scheme.value).toBe(before)
  })
})
