import { beforeEach, describe, expect, it } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useKept } from './useKept'

function page(chosen = ref<string[]>([])) {
  const scope = effectScope()
  const found = scope.run(() =>
    useKept(
      'deploy.1',
      () => (chosen.value.length ? { chosen: chosen.value } : undefined),
      (kept) => (chosen.value = kept.chosen),
    ),
  )!
  return { chosen, found, leave: () => scope.stop() }
}

describe('what is chosen and not done yet', () => {
  beforeEach(() => sessionStorage.clear())

  it('is there again when the page is opened again, and said to be', async () => {
    const first = page()
    expect(first.found.value).toBe(false)
    first.chosen.value = ['a', 'b']
    await nextTick()
    first.leave()
    const second = page()
    expect(second.chosen.value).toEqual(['a', 'b'])
    expect(second.found.value).toBe(true)
  })

  it('is forgotten once it is done or started over', async () => {
    const first = page()
    first.chosen.value = ['a']
    await nextTick()
    first.chosen.value = []
    await nextTick()
    expect(page().found.value).toBe(false)
  })

  it('is nothing where the browser kept nonsense', () => {
    sessionStorage.setItem('vennpair.chosen.deploy.1', '{')
    expect(page().chosen.value).toEqual([])
  })
})
