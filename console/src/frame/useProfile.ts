import { useMutation } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'
import type { Language } from '@/words'
import { useSignOut } from './useSignOut'

/** What a person chooses for all of their browsers, and signing out. */
export function useProfile() {
  const keepLanguage = useMutation({
    mutationFn: (language: Language) => answered(api.PATCH('/api/v1/me', { body: { language } })),
  })
  return { signOut: useSignOut(), keepLanguage }
}
