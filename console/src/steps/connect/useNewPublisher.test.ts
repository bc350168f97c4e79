import { useQuery } from '@tanstack/vue-query'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { service, used } from '@/parts/forTests'
import { publishersQuery } from './queries'
import { useNewPublisher } from './useNewPublisher'

const LIST = 'GET /api/v1/connections/publishers'
const CLOSE = 'org.imsglobal.lti.close'

async function registering() {
  const other = {} as Window
  vi.spyOn(window, 'open').mockReturnValue(other)
  const asked = service({ [LIST]: () => [] })
  const found = used(() => {
    useQuery(publishersQuery())
    return useNewPublisher()
  })
  await vi.waitFor(() => expect(asked).toHaveLength(1))
  const say = async (subject: string, source: Window | null) => {
    window.dispatchEvent(
      Object.defineProperty(new MessageEvent('message', { data: { subject } }), 'source', {
        value: source,
      }),
    )
    await new Promise((later) => setTimeout(later, 20))
    return asked.length - 1
  }
  return { other, say, ...found }
}

describe('a publisher that registers itself', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is looked for once its own window says that it is done', async () => {
    const { other, say, open, opened, leave } = await registering()
    open('https://press.example/register')
    expect(opened.value).toBe(true)
    expect(await say(CLOSE, window), 'another window').toBe(0)
    expect(await say('lti.frameResize', other), 'another word').toBe(0)
    expect(await say(CLOSE, other)).toBe(1)
    expect(await say(CLOSE, other), 'once').toBe(1)
    leave()
  })

  it('is listened to no longer once the page was left', async () => {
    const { other, say, open, leave } = await registering()
    open('https://press.example/register')
    leave()
    expect(await say(CLOSE, other)).toBe(0)
  })

  it('says that no window was opened', async () => {
    const { open, opened, leave } = await registering()
    vi.mocked(window.open).mockReturnValue(null)
    open('https://press.example/register')
    expect(opened.value).toBe(false)
    leave()
  })
})
