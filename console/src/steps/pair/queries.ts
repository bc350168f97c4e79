import { keepPreviousData, queryOptions } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

export const shellsQuery = () =>
  queryOptions({
    queryKey: ['shells'],
    queryFn: () => answered(api.GET('/api/v1/shells', { params: { query: { limit: 1000 } } })),
  })

export const pairingQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairing', id],
    queryFn: () => answered(api.GET('/api/v1/pairings/{id}', { params: { path: { id } } })),
  })

export const readinessQuery = (id: string) =>
  queryOptions({
    queryKey: ['pairing', id, 'readiness'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/readiness', {
          params: { path: { pairing_pk: id } },
        }),
      ),
    staleTime: 30_000,
  })

/** A search looks in what was read; the service reads the publishers again in the background. */
export const coursesQuery = (shell: string, words: string, mine: boolean) =>
  queryOptions({
    queryKey: ['courses', shell, words, mine],
    queryFn: () =>
      answered(
        api.GET('/api/v1/courses', {
          params: { query: { shell, q: words, mine: mine || undefined, limit: 30 } },
        }),
      ),
    placeholderData: keepPreviousData,
  })

export const titlesQuery = (words: string) =>
  queryOptions({
    queryKey: ['titles', words],
    queryFn: () =>
      answered(api.GET('/api/v1/titles', { params: { query: { q: words, limit: 30 } } })),
    placeholderData: keepPreviousData,
  })

export const consentQuery = (shell: string) =>
  queryOptions({
    queryKey: ['shell', shell, 'consent'],
    queryFn: () =>
      answered(api.GET('/api/v1/shells/{id}/consent', { params: { path: { id: shell } } })),
  })

export const shellToolQuery = (shell: string) =>
  queryOptions({
    queryKey: ['shell', shell, 'tool'],
    queryFn: () =>
      answered(api.GET('/api/v1/shells/{id}/tool', { params: { path: { id: shell } } })),
  })

export const copiedQuery = (shell: string) =>
  queryOptions({
    queryKey: ['shell', shell, 'copied'],
    queryFn: () =>
      answered(api.GET('/api/v1/shells/{id}/copied', { params: { path: { id: shell } } })),
  })

export const accountsQuery = () =>
  queryOptions({
    queryKey: ['accounts'],
    queryFn: () => answered(api.GET('/api/v1/accounts')),
    refetchOnWindowFocus: true,
  })

export const matchesQuery = (pairing: string) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'matches'],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/matches', {
          params: { path: { pairing_pk: pairing } },
        }),
      ),
  })

export const firstStepsQuery = (pairing: string, access: Access) =>
  queryOptions({
    queryKey: ['pairing', pairing, 'first-steps', access],
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{id}/first-steps', {
          params: { path: { id: pairing }, query: { access } },
        }),
      ),
  })

export type Access = 'code' | 'fee' | 'free'
