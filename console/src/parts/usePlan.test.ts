import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { createApp, nextTick, ref } from 'vue'
import { usePlan } from './usePlan'

interface Choice {
  items: string[]
}

/** A page that asks what would come of a choice; answers come when the test says so. */
function page(first?: Choice) {
  const body = ref<Choice | undefined>(first)
  const asked: { choice: Choice; answer: (plan: string) => void; fail: (why: Error) => void }[] = []
  let found!: ReturnType<typeof usePlan<Choice, string>>
  const app = createApp({
    setup() {
      found = usePlan<Choice, string>(
        body,
        (choice) =>
          new Promise((answer, fail) => {
            asked.push({ choice, answer, fail })
          }),
      )
      return () => null
    },
  })
  const client = new QueryClient({ defaultOptions: { mutations: { networkMode: 'always' } } })
  app.use(VueQueryPlugin, { queryClient: client }).mount(document.createElement('div'))
  return { body, asked, found, leave: () => app.unmount() }
}

const settle = async (milliseconds = 0) => {
  await nextTick()
  await vi.advanceTimersByTimeAsync(milliseconds)
}

describe('what would come of a choice', () => {
  beforeEach(() => vi.useFakeTimers())
  afterEach(() => vi.useRealTimers())

  it('is asked once for changes that follow each other', async () => {
    const { body, asked, found } = page()
    await settle(1000)
    expect(asked).toHaveLength(0)
    body.value = { items: ['a'] }
    await settle(100)
    body.value = { items: ['a', 'b'] }
    await settle(300)
    expect(asked.map((each) => each.choice.items)).toEqual([['a', 'b']])
    asked[0]!.answer('2 links')
    await settle()
    expect(found.plan.value).toBe('2 links')
  })

  it('is never that of an earlier choice, however late its answer comes', async () => {
    const { body, asked, found } = page({ items: ['a'] })
    await settle(300)
    body.value = { items: ['b', 'c'] }
    await settle(300)
    asked[1]!.answer('2 links')
    await settle()
    asked[0]!.answer('1 link')
    await settle()
    expect(found.plan.value).toBe('2 links')
  })

  it('is not there while the new one is on its way', async () => {
    const { body, asked, found } = page({ items: ['a'] })
    await settle(300)
    asked[0]!.answer('1 link')
    await settle()
    expect(found.plan.value).toBe('1 link')
    body.value = { items: ['b'] }
    await nextTick()
    expect(found.plan.value).toBeUndefined()
    await settle(300)
    asked[0]!.answer('1 link again')
    await settle()
    expect(found.plan.value).toBeUndefined()
    expect(found.pending.value).toBe(true)
  })

  it('says what went wrong until the choice changes', async () => {
    const { body, asked, found } = page({ items: ['a'] })
    await settle(300)
    asked[0]!.fail(new Error('The platform does not answer.'))
    await settle()
    expect(found.error.value?.message).toBe('The platform does not answer.')
    body.value = undefined
    await settle()
    expect(found.error.value).toBeNull()
    expect(found.plan.value).toBeUndefined()
  })

  it('is not asked for once one has left', async () => {
    const { asked, leave } = page({ items: ['a'] })
    leave()
    await settle(1000)
    expect(asked).toHaveLength(0)
  })
})
