import { queryOptions } from '@tanstack/vue-query'
import { answered, api, cursorOf, type Schemas } from '@/api/client'

/** Read every placed link, page after page. */
export const placementsQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'placements'],
    queryFn: async () => {
      const rows: Schemas['Placement'][] = []
      for (let cursor: string | undefined = ''; cursor !== undefined;) {
        const page: Schemas['PaginatedPlacementList'] = await answered(
          api.GET('/api/v1/pairings/{pairing_pk}/placements', {
            params: {
              path: { pairing_pk: pairing },
              query: { limit: 200, ...(cursor ? { cursor } : {}) },
            },
          }),
        )
        rows.push(...page.results)
        cursor = cursorOf(page.next)
      }
      return rows
    },
  })

export const driftQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'drift'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/drifts', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

export const checksQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'learner-checks'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/learner-checks', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

export const travelsQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'travels'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/travels', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

export const exportsQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'exports'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/exports', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

export const averagesQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'averages'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/averages', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

/** All graded items, however many pages they are. */
export const gradedQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'graded'],
    queryFn: async () => {
      const items: Schemas['Item'][] = []
      let cursor: string | undefined
      do {
        const page = await answered(
          api.GET('/api/v1/pairings/{pairing_pk}/items', {
            params: {
              path: { pairing_pk: pairing },
              query: { kind: 'graded', limit: 200, ...(cursor ? { cursor } : {}) },
            },
          }),
        )
        items.push(...page.results)
        cursor = cursorOf(page.next)
      } while (cursor)
      return items
    },
  })

export const totalsQuery = (pairing: string, average: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'averages', average, 'rows'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/averages/{id}/rows', {
          params: { path: { pairing_pk: pairing, id: average } },
        }),
      ),
  })
