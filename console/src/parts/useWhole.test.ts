import { useInfiniteQuery } from '@tanstack/vue-query'
import { describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { used } from './forTests'
import { useWhole } from './useWhole'

/** A list of three pages, of which some answer as ``answer`` says. */
function list(answer: (page: number) => Promise<number>) {
  const asked: number[] = []
  const found = used(() => {
    const pages = useInfiniteQuery({
      queryKey: ['list'],
      queryFn: ({ pageParam }) => {
        asked.push(pageParam)
        return answer(pageParam)
      },
      initialPageParam: 1,
      getNextPageParam: (last: number) => (last < 3 ? last + 1 : undefined),
    })
    useWhole(pages)
    return pages
  })
  return { asked, ...found }
}
const moment = () => new Promise((later) => setTimeout(later, 60))

describe('a whole list', () => {
  it('is read to its end, each page once', async () => {
    const { asked, data, leave } = list((page) => Promise.resolve(page))
    await vi.waitFor(() => expect(data.value?.pages).toEqual([1, 2, 3]))
    await moment()
    expect(asked).toEqual([1, 2, 3])
    leave()
  })

  it('is not asked for again and again where a page is refused', async () => {
    let refused = true
    const { asked, data, isError, refetch, leave } = list((page) =>
      page === 2 && refused ? Promise.reject(new Error('busy')) : Promise.resolve(page),
    )
    await vi.waitFor(() => expect(isError.value).toBe(true))
    await moment()
    expect(asked).toEqual([1, 2])
    expect(data.value?.pages).toEqual([1])
    refused = false
    await refetch() // as the note's button does
    await vi.waitFor(() => expect(data.value?.pages).toEqual([1, 2, 3]))
    leave()
  })

  it('goes on where the page was left before its end', () => {
    const fetchNextPage = vi.fn()
    const there = { hasNextPage: ref(true), isFetching: ref(false), isError: ref(false) }
    const { leave } = used(() => useWhole({ ...there, fetchNextPage }))
    expect(fetchNextPage).toHaveBeenCalledOnce()
    leave()
  })
})
