import { afterEach, describe, expect, it, vi } from 'vitest'
import { service, used } from '@/parts/forTests'
import { useNotices } from './useNotices'

const LIST = 'GET /api/v1/notices'
const READ = 'POST /api/v1/notices/read'

describe('notices', () => {
  afterEach(() => vi.restoreAllMocks())

  it.each([
    ['are read once one leaves', null, 1],
    ['that were read are not read again', '2027-01-15T10:00:00Z', 0],
  ])('%s', async (_, read_at, times) => {
    const asked = service({ [LIST]: () => ({ results: [{ id: 1, read_at }] }), [READ]: () => ({}) })
    const { data, leave } = used(() => useNotices(5))
    await vi.waitFor(() => expect(data.value?.results).toHaveLength(1))
    expect(asked.map((each) => each.call)).toEqual([LIST])
    leave()
    await vi.waitFor(() => expect(asked.filter((each) => each.call === READ)).toHaveLength(times))
  })

  it('that never came are not called read', async () => {
    const asked = service({ [LIST]: () => new Promise(() => {}), [READ]: () => ({}) })
    const { leave } = used(() => useNotices(5))
    leave()
    await new Promise((later) => setTimeout(later, 20))
    expect(asked.some((each) => each.call === READ)).toBe(false)
  })
})
