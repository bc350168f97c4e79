import { queryOptions } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

/** What needs one today, again each minute while the page is open. */
export const todayQuery = () =>
  queryOptions({
    queryKey: ['today'],
    queryFn: () => answered(api.GET('/api/v1/today')),
    refetchInterval: 60_000,
  })

/** Shells, items and learners that hold the words. */
export const searchQuery = (words: string) =>
  queryOptions({
    queryKey: ['search', words],
    enabled: words.trim().length > 1,
    queryFn: () => answered(api.GET('/api/v1/search', { params: { query: { q: words } } })),
  })
