import { infiniteQueryOptions, queryOptions } from '@tanstack/vue-query'
import { answered, api, cursorOf } from '@/api/client'

type Filters = { kind?: string; placed?: boolean; q?: string }

export const itemsQuery = (pairing: string, filters: Filters) =>
  infiniteQueryOptions({
    queryKey: ['pairing', pairing, 'items', filters],
    queryFn: ({ pageParam }) =>
      answered(api.GET('/api/v1/pairings/{pairing_pk}/items', { params: { path: { pairing_pk: pairing }, query: { ...filters, limit: 200, ...(pageParam ? { cursor: pageParam } : {}) } } })),
    initialPageParam: '',
    getNextPageParam: (page) => cursorOf(page.next),
  })

export const outlineQuery = (pairing: string) =>
  queryOptions({ queryKey: ['pairing', pairing, 'outline'], queryFn: () => answered(api.GET('/api/v1/pairings/{pairing_pk}/outline', { params: { path: { pairing_pk: pairing } } })) })
