import { queryOptions } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

export const meQuery = () =>
  queryOptions({
    queryKey: ['me'],
    queryFn: () => answered(api.GET('/api/v1/me')),
    staleTime: 60_000,
  })

export const platformsQuery = () =>
  queryOptions({
    queryKey: ['platforms'],
    queryFn: () =>
      answered(api.GET('/api/v1/connections/platforms', { params: { query: { limit: 100 } } })),
  })

export const publishersQuery = () =>
  queryOptions({
    queryKey: ['publishers'],
    queryFn: () =>
      answered(api.GET('/api/v1/connections/publishers', { params: { query: { limit: 100 } } })),
  })

export const toolCardQuery = () =>
  queryOptions({
    queryKey: ['tool-card'],
    queryFn: () => answered(api.GET('/api/v1/connections/platforms/card')),
    staleTime: Infinity,
  })

export const keysQuery = () =>
  queryOptions({ queryKey: ['keys'], queryFn: () => answered(api.GET('/api/v1/connections/keys')) })

export const peopleQuery = () =>
  queryOptions({
    queryKey: ['people'],
    queryFn: () => answered(api.GET('/api/v1/people', { params: { query: { limit: 200 } } })),
  })

export const tokensQuery = () =>
  queryOptions({ queryKey: ['tokens'], queryFn: () => answered(api.GET('/api/v1/me/tokens')) })

export const waysQuery = () =>
  queryOptions({
    queryKey: ['sign-in-ways'],
    queryFn: () => answered(api.GET('/api/v1/sign-in/ways')),
    staleTime: Infinity,
  })

export const collegeQuery = () =>
  queryOptions({
    queryKey: ['college-sign-in'],
    queryFn: () => answered(api.GET('/api/v1/connections/college-sign-in')),
  })

/** One's own passkeys. */
export const passkeysQuery = () =>
  queryOptions({
    queryKey: ['me', 'passkeys'],
    queryFn: () => answered(api.GET('/api/v1/me/passkeys')),
  })
