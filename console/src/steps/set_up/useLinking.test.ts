import { useQuery } from '@tanstack/vue-query'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { Refusal, service, used } from '@/parts/forTests'
import { accountsQuery } from '@/steps/pair/queries'
import { useLinking } from './useLinking'

const LIST = 'GET /api/v1/accounts'
const LINK = 'POST /api/v1/accounts'
const CONFIRM = 'POST /api/v1/accounts/{id}/confirm'

function linking(answers: Parameters<typeof service>[0]) {
  const other = { location: { assign: vi.fn() }, close: vi.fn() }
  vi.spyOn(window, 'open').mockReturnValue(other as never)
  const asked = service({ [LIST]: () => [], ...answers })
  const found = used(() => {
    useQuery(accountsQuery())
    return useLinking()
  })
  const looks = () => asked.filter((each) => each.call === LIST).length
  return { asked, other, looks, ...found }
}

describe('linking an account in another window', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => {
    vi.restoreAllMocks()
    vi.useRealTimers()
  })

  it('looks for it again and again, until it is said to be one’s own', async () => {
    const { other, looks, open, opened, confirm, leave } = linking({
      [LINK]: () => ({ open: 'https://press.example/link' }),
      [CONFIRM]: () => ({}),
    })
    open('k1')
    await vi.advanceTimersByTimeAsync(0)
    expect(other.location.assign.mock.calls).toEqual([['https://press.example/link']])
    expect(opened.value).toBe(true)
    const before = looks()
    await vi.advanceTimersByTimeAsync(6_100)
    expect(looks() - before).toBe(3)
    await confirm.mutateAsync('a1')
    const after = looks()
    await vi.advanceTimersByTimeAsync(60_000)
    expect(looks()).toBe(after)
    leave()
  })

  it('does not look for hours at a window that nobody closes', async () => {
    const { looks, open, leave } = linking({ [LINK]: () => ({ open: 'https://press.example' }) })
    open('k1')
    await vi.advanceTimersByTimeAsync(20 * 60_000)
    const before = looks()
    await vi.advanceTimersByTimeAsync(3 * 3_600_000)
    expect(looks()).toBe(before)
    leave()
  })

  it('closes the other window where it cannot begin, and says why here', async () => {
    const { other, open, opened, link, leave } = linking({
      [LINK]: () => new Refusal(409, 'The publisher is not connected.'),
    })
    open('k1')
    await vi.advanceTimersByTimeAsync(0)
    expect(other.close).toHaveBeenCalledOnce()
    expect([opened.value, link.error.value?.message]).toEqual([
      false,
      'The publisher is not connected.',
    ])
    leave()
  })
})
