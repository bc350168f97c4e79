import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { service, used } from '@/parts/forTests'
import { useTool } from './useTool'

const TOOL = 'GET /api/v1/shells/{id}/tool'
const CHANGE = 'PATCH /api/v1/shells/{id}/tool'

function tool() {
  const asked = service({
    [TOOL]: () => ({ on: true, navigation: false, links: 12, etag: 'e1' }),
    [CHANGE]: ({ body }) =>
      body.dry_run && body.on === false ? { warning: '12 links stop working.' } : { warning: '' },
  })
  const changed = () =>
    asked.filter((each) => each.call === CHANGE && !each.body.dry_run).map((each) => each.body)
  return { changed, ...used(() => useTool(ref('s1'), ref('p1'))) }
}

describe('our place in a shell', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is changed only once what that breaks was said and agreed to', async () => {
    const { tool: now, foresee, asked, change, changed, leave } = tool()
    await vi.waitFor(() => expect(now.value?.etag).toBe('e1'))
    await foresee.mutateAsync({ on: false })
    expect([asked.value, changed()]).toEqual([{ on: false }, []])
    await change.mutateAsync(asked.value!)
    expect(changed()).toEqual([{ on: false, etag: 'e1' }])
    expect(asked.value).toBeUndefined()
    leave()
  })

  it('is changed at once where nothing breaks, as it was read', async () => {
    const { tool: now, foresee, asked, changed, leave } = tool()
    await vi.waitFor(() => expect(now.value?.etag).toBe('e1'))
    await foresee.mutateAsync({ navigation: true })
    await vi.waitFor(() => expect(changed()).toEqual([{ navigation: true, etag: 'e1' }]))
    expect(asked.value).toBeUndefined()
    leave()
  })

  it('stays where somebody thinks better of it', async () => {
    const { foresee, asked, changed, leave } = tool()
    await foresee.mutateAsync({ on: false })
    foresee.reset()
    expect(asked.value).toBeUndefined()
    expect(changed()).toEqual([])
    leave()
  })
})
