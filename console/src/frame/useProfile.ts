import { useMutation } from '@tanstack/vue-query'
import { nextTick } from 'vue'
import { answered, api } from '@/api/client'
import { useSayProblem } from '@/parts/useSay'
import type { Language } from '@/words'
import { chosenLanguage } from './preferences'
import { useSignOut } from './useSignOut'

/** What a person chooses for all of their browsers, and signing out. */
export function useProfile() {
  const keepLanguage = useMutation({
    mutationFn: (language: Language) => answered(api.PATCH('/api/v1/me', { body: { language } })),
    onSuccess: async (_, language) => {
      chosenLanguage.value = language
      await nextTick() // it is stored
      window.location.reload() // what was said already is said again in the new language
    },
    onError: useSayProblem(),
  })
  return { signOut: useSignOut(), keepLanguage }
}
