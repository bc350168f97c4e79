import { queryOptions } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

export const relayQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairing', id, 'relay'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/relay', { params: { path: { pairing_pk: id } } }),
      ),
    refetchInterval: 3_000,
  })

export const chartQuery = (id: string, hours: number) =>
  queryOptions({
    queryKey: ['pairing', id, 'relay', 'chart', hours],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/relay/chart', {
          params: { path: { pairing_pk: id }, query: { hours } },
        }),
      ),
    refetchInterval: 10_000,
  })

export const rulesQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairing', id, 'relay', 'rules'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/relay-rules', {
          params: { path: { pairing_pk: id } },
        }),
      ),
  })

export const storyQuery = (id: string, score: number) =>
  queryOptions({
    queryKey: ['pairing', id, 'relay', 'story', score],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/scores/{id}', {
          params: { path: { pairing_pk: id, id: String(score) } },
        }),
      ),
  })
