import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { answered, api } from '@/api/client'
import { useSignOut } from '@/frame/useSignOut'
import { meQuery } from './queries'

export type Wish = 'daily' | 'weekly' | 'never'

/** How who is signed in comes in, what is sent to them, and signing out. */
export function useAccess() {
  const client = useQueryClient()
  const { data: me } = useQuery(meQuery())
  const password = ref('')
  const save = useMutation({
    mutationFn: () =>
      answered(api.POST('/api/v1/me/password', { body: { password: password.value } })),
    onSuccess: () => {
      password.value = ''
      client.invalidateQueries({ queryKey: ['me'] })
    },
  })
  const wish = useMutation({
    mutationFn: (digest: Wish) => answered(api.PATCH('/api/v1/me', { body: { digest } })),
    onSuccess: () => client.invalidateQueries({ queryKey: ['me'] }),
  })
  return { me, password, save, wish, signOut: useSignOut() }
}
