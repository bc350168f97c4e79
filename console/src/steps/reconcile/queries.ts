import { infiniteQueryOptions, queryOptions } from '@tanstack/vue-query'
import { answered, api, cursorOf } from '@/api/client'

/** The newest comparison that is done, or null. */
export const latestComparisonQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'comparison'],
    queryFn: async () => {
      const page = await answered(api.GET('/api/v1/pairings/{pairing_pk}/comparisons', { params: { path: { pairing_pk: pairing }, query: { limit: 5 } } }))
      return page.results.find((each) => each.at) ?? null
    },
  })

export const findingsQuery = (pairing: string, comparison: string, filters: Record<string, string>) =>
  infiniteQueryOptions({
    queryKey: ['pairing', pairing, 'findings', comparison, filters],
    queryFn: ({ pageParam }) =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/comparisons/{comparison_pk}/findings', {
          params: { path: { pairing_pk: pairing, comparison_pk: comparison }, query: { ...filters, limit: 100, ...(pageParam ? { cursor: pageParam } : {}) } },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => cursorOf(page.next),
  })
