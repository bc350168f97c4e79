import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { answered, api, type Schemas } from '@/api/client'
import { toolCardQuery } from './queries'

/** Three ways to connect a platform: by a link, from its configuration, by hand. */
export function useNewPlatform() {
  const client = useQueryClient()
  const { data: card } = useQuery(toolCardQuery())
  const again = () => client.invalidateQueries({ queryKey: ['platforms'] })
  const invite = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/connections/platforms/invite', { body: {} })),
  })
  const register = useMutation({
    mutationFn: (body: Schemas['RegistrationRequest']) =>
      answered(api.POST('/api/v1/connections/platforms/register', { body })),
    onSuccess: again,
  })
  const add = useMutation({
    mutationFn: (body: Schemas['NewPlatformRequest']) =>
      answered(api.POST('/api/v1/connections/platforms', { body })),
    onSuccess: again,
  })
  return { card, invite, register, add }
}
