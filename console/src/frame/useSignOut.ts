import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { useSayProblem } from '@/parts/useSay'

/** End the session of this browser; nothing that was read in it stays. */
export function useSignOut() {
  const router = useRouter()
  const client = useQueryClient()
  return useMutation({
    onError: useSayProblem(),
    mutationFn: () => answered(api.POST('/api/v1/sign-out', { body: { everywhere: false } })),
    onSuccess: async () => {
      client.clear()
      await router.replace({ name: 'sign-in' })
    },
  })
}
