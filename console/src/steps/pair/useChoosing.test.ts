import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import { Refusal, service, used } from '@/parts/forTests'
import { useChoosing } from './useChoosing'

const PAIR = 'POST /api/v1/pairings'
const COURSES = 'GET /api/v1/courses'
const page = { render: () => null }

async function choosing(agreed: boolean, pair: () => unknown = () => ({ id: 'p9' })) {
  const asked = service({
    'GET /api/v1/shells': () => ({ results: [{ id: 's1', label: 'HYD 210-01' }] }),
    'GET /api/v1/shells/{id}/consent': () => ({ agreed }),
    [COURSES]: ({ query }) => ({ results: [], refreshed: query.refresh === true }),
    'GET /api/v1/titles': () => ({ results: [] }),
    [PAIR]: pair,
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: '/', component: page },
      { path: '/pairings/:pairing', name: 'pair', component: page },
    ],
  })
  await router.push('/')
  const found = used(() => useChoosing(ref('s1')), router)
  await vi.waitFor(() => expect(found.consent.value?.agreed).toBe(agreed))
  const paired = () => asked.filter((each) => each.call === PAIR).map((each) => each.body)
  return { asked, router, paired, ...found }
}

describe('choosing a shell’s course', () => {
  afterEach(() => vi.restoreAllMocks())

  it('asks first where nobody has agreed yet', async () => {
    const { choose, chosen, paired, pair, router, leave } = await choosing(false)
    await choose('course', 'c1', 'Rivers and Groundwater', true)
    expect(chosen.value).toEqual({
      ...{ way: 'course', id: 'c1', words: 'Rivers and Groundwater', share: true },
    })
    expect(paired()).toEqual([])
    await pair.mutateAsync(chosen.value!)
    expect(paired()).toEqual([{ shell: 's1', course: 'c1', agree: true, share: true, name: '' }])
    expect(router.currentRoute.value.params.pairing).toBe('p9')
    leave()
  })

  it('pairs at once where somebody agreed before; making a course is asked about still', async () => {
    const { choose, chosen, paired, name, pair, leave } = await choosing(true)
    name.value = ' Evening section '
    await choose('title', 't1', 'Rivers and Groundwater, 3rd ed.')
    expect(paired()).toEqual([])
    await pair.mutateAsync(chosen.value!)
    await choose('course', 'c1', 'HYD 210')
    await vi.waitFor(() => expect(paired()).toHaveLength(2))
    expect(paired()).toEqual([
      { shell: 's1', title: 't1', agree: true, share: false, name: 'Evening section' },
      { shell: 's1', course: 'c1', agree: true, share: false, name: '' },
    ])
    leave()
  })

  it('stays on the page where it is refused, and forgets that with the next choice', async () => {
    const { choose, chosen, pair, router, leave } = await choosing(
      false,
      () => new Refusal(409, 'That course is paired already.'),
    )
    await choose('course', 'c1', 'HYD 210')
    await expect(pair.mutateAsync(chosen.value!)).rejects.toThrow('paired already')
    expect(router.currentRoute.value.path).toBe('/')
    await choose('copy_of', 'c2', 'HYD 210')
    expect(pair.error.value).toBeNull()
    leave()
  })

  it('reads the publishers once more, and shows what came by it', async () => {
    const { asked, words, leave } = await choosing(true)
    const courses = () => asked.filter((each) => each.call === COURSES)
    await vi.waitFor(() => expect(courses().some((each) => each.query.refresh)).toBe(true))
    await vi.waitFor(() => expect(courses().filter((each) => each.query.shell)).toHaveLength(2))
    words.value = ' rivers '
    await vi.waitFor(() => expect(courses().at(-1)?.query.q).toBe('rivers'))
    expect(courses().filter((each) => each.query.refresh)).toHaveLength(1)
    leave()
  })
})
