import { infiniteQueryOptions, keepPreviousData, queryOptions } from '@tanstack/vue-query'
import { answered, api, cursorOf } from '@/api/client'
import { askAgain } from '@/parts/askAgain'

const HISTORY = 30

/** The comparisons of a pairing that are done, the newest first, without their matrices. */
export const historyQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'comparisons'],
    queryFn: async () => {
      const page = await answered(
        api.GET('/api/v1/pairings/{pairing_pk}/comparisons', {
          params: { path: { pairing_pk: pairing }, query: { limit: HISTORY } },
        }),
      )
      return page.results.filter((each) => each.at && !each.file)
    },
  })

/** The newest comparison that is done with its matrix, or null. */
export const latestComparisonQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'comparison'],
    // The first one may have been asked for on a page that was left since.
    refetchInterval: ({ state }) => askAgain(2_000, !state.data, state.error),
    queryFn: async () => {
      const page = await answered(
        api.GET('/api/v1/pairings/{pairing_pk}/comparisons', {
          params: { path: { pairing_pk: pairing }, query: { limit: 5 } },
        }),
      )
      const newest = page.results.find((each) => each.at)
      return newest
        ? answered(
            api.GET('/api/v1/pairings/{pairing_pk}/comparisons/{id}', {
              params: { path: { pairing_pk: pairing, id: newest.id } },
            }),
          )
        : null
    },
  })

export const findingsQuery = (
  pairing: string,
  comparison: string,
  filters: Record<string, string>,
) =>
  infiniteQueryOptions({
    queryKey: ['pairing', pairing, 'findings', comparison, filters],
    queryFn: ({ pageParam }) =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/comparisons/{comparison_pk}/findings', {
          params: {
            path: { pairing_pk: pairing, comparison_pk: comparison },
            query: { ...filters, limit: 100, ...(pageParam ? { cursor: pageParam } : {}) },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => cursorOf(page.next),
  })

export const settlementsQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'settlements'],
    queryFn: async () =>
      (
        await answered(
          api.GET('/api/v1/pairings/{pairing_pk}/settlements', {
            params: { path: { pairing_pk: pairing }, query: { limit: 10 } },
          }),
        )
      ).results,
  })

export const cellQuery = (pairing: string, placement: string, learner: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'cell', placement, learner],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/placements/{placement}/cells/{id}', {
          params: { path: { pairing_pk: pairing, placement, id: learner } },
        }),
      ),
  })

export const statementQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'statement'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/statement', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

/** Every pairing with how far it agrees; followed while any is being compared. */
export const agreementQuery = (filters: { open?: string; q?: string }) =>
  infiniteQueryOptions({
    queryKey: ['agreement', filters],
    placeholderData: keepPreviousData, // while the next letters are asked for
    queryFn: ({ pageParam }) =>
      answered(
        api.GET('/api/v1/agreement', {
          params: {
            query: {
              ...(filters.open ? { open: true } : {}),
              ...(filters.q ? { q: filters.q } : {}),
              ...(pageParam ? { cursor: pageParam } : {}),
            },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (page) => cursorOf(page.next),
    refetchInterval: ({ state }) => {
      const rows = state.data?.pages.flatMap((page) => page.results) ?? []
      const going = rows.some((row) => ['waiting', 'comparing'].includes(row.standing))
      return askAgain(1_500, going, state.error)
    },
  })
