import { queryOptions } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

export const meQuery = () => queryOptions({ queryKey: ['me'], queryFn: () => answered(api.GET('/api/v1/me')), staleTime: 60_000 })
