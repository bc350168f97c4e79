import { queryOptions } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

export const shellsQuery = () =>
  queryOptions({ queryKey: ['shells'], queryFn: () => answered(api.GET('/api/v1/shells', { params: { query: { limit: 200 } } })) })

export const pairingQuery = (id: string) =>
  queryOptions({ queryKey: ['pairing', id], queryFn: () => answered(api.GET('/api/v1/pairings/{id}', { params: { path: { id } } })) })

export const readinessQuery = (id: string) =>
  queryOptions({ queryKey: ['pairing', id, 'readiness'], queryFn: () => answered(api.GET('/api/v1/pairings/{id}/readiness', { params: { path: { id } } })), staleTime: 30_000 })

/** The whole list is asked of the publishers anew, as a course may just have been made; a search looks in what was read. */
export const coursesQuery = (shell: string, words: string) =>
  queryOptions({ queryKey: ['courses', shell, words], queryFn: () => answered(api.GET('/api/v1/courses', { params: { query: { shell, q: words, refresh: words === '' } } })) })
