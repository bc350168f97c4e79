import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { tokensQuery } from './queries'

export type Scope = Schemas['NewTokenRequest']['scopes'][number]

/** The access tokens of who is signed in, a new one, and ending one. */
export function useTokens() {
  const client = useQueryClient()
  const { data: tokens } = useQuery(tokensQuery())
  const name = ref('')
  const scopes = ref<Scope[]>(['read'])
  const again = () => client.invalidateQueries({ queryKey: ['tokens'] })
  const make = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/me/tokens', {
          body: { name: name.value, scopes: scopes.value, days: 30 },
        }),
      ),
    onSuccess: () => {
      name.value = ''
      again()
    },
  })
  const revoke = useMutation({
    mutationFn: (token_key: string) =>
      answered(api.DELETE('/api/v1/me/tokens/{token_key}', { params: { path: { token_key } } })),
    onSuccess: again,
  })
  return { tokens, name, scopes, make, revoke }
}
