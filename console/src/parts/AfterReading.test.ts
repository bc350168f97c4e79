import { describe, expect, it } from 'vitest'
import { createApp, h, nextTick, reactive, ref } from 'vue'
import { i18n } from '@/words'
import AfterReading from './AfterReading.vue'

/** A page on which something is read; the test says how the reading goes. */
function page() {
  const asked = { again: 0 }
  const reading = {
    isPending: ref(true),
    isLoadingError: ref(false),
    error: ref<Error | null>(null),
    refetch: () => (asked.again += 1),
  }
  const props = reactive({ what: 'the items', none: '' })
  const at = document.createElement('div')
  createApp(() => h(AfterReading, { reading, ...props }, () => h('ul', 'Practice set 1A')))
    .use(i18n)
    .mount(at)
  const shown = async () => {
    await nextTick()
    return at.textContent ?? ''
  }
  return { asked, at, props, reading, shown }
}

describe('what was read', () => {
  it('is there once it is read, and until then it is said that it is being read', async () => {
    const { reading, shown } = page()
    expect(await shown()).toContain('the items')
    expect(await shown()).not.toContain('Practice set 1A')
    reading.isPending.value = false
    expect(await shown()).toBe('Practice set 1A')
  })
  it('could not be read: that is said in its place, with a second try', async () => {
    const { asked, at, reading, shown } = page()
    reading.isPending.value = false
    reading.isLoadingError.value = true
    reading.error.value = new Error('away')
    expect(await shown()).not.toContain('Practice set 1A')
    at.querySelector('button')!.click()
    expect(asked.again).toBe(1)
  })
  it('stays in sight when a later reading fails', async () => {
    const { at, reading, shown } = page()
    reading.isPending.value = false
    reading.error.value = new Error('away')
    expect(await shown()).toContain('Practice set 1A')
    expect(at.querySelector('[role=alert]')).not.toBeNull()
  })
  it('is nothing: that is said, and what it means', async () => {
    const { props, reading, shown } = page()
    reading.isPending.value = false
    props.none = 'No items yet'
    expect(await shown()).toContain('No items yet')
    expect(await shown()).not.toContain('Practice set 1A')
  })
})
