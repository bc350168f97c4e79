import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { consentQuery, copiedQuery, shellsQuery } from './queries'

/** Where the links of a copied shell lead, and pointing them right. */
export function usePointing(shell: Ref<string>) {
  const router = useRouter()
  const client = useQueryClient()
  const { data: shells } = useQuery(shellsQuery())
  const about = computed(() => shells.value?.results.find((each) => each.id === shell.value))
  const { data: consent } = useQuery(computed(() => consentQuery(shell.value)))
  const { data: found, ...reading } = useQuery(computed(() => copiedQuery(shell.value)))
  // Where only what follows could not be begun, the next try begins that.
  const pointed = ref('')
  const go = useMutation({
    mutationFn: async (choice: 'same' | 'fresh') => {
      if (pointed.value !== shell.value)
        await answered(
          api.POST('/api/v1/shells/{id}/copied', {
            params: { path: { id: shell.value } },
            body: { choice, agree: true },
          }),
        )
      pointed.value = shell.value
      return answered(
        api.POST('/api/v1/set-ups', {
          body: { sections: [{ shell: shell.value, share: false, name: '' }], agree: true },
        }),
      )
    },
    onSuccess: async (begun) => {
      await client.invalidateQueries({ queryKey: ['shells'] })
      // The links lead somewhere now; what of last term's dates and columns follows is the next question.
      await router.push({ name: 'set-up', params: { setUp: begun.id }, query: { copied: '' } })
    },
  })
  return { about, consent, found, reading, go }
}
