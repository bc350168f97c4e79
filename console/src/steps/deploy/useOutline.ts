import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answered, api } from '@/api/client'
import { outlineQuery } from '@/steps/content/queries'

/** The shell's outline, and asking the platform for what only a launch from there can tell. */
export function useOutline(pairing: () => string) {
  const { data: outline, ...reading } = useQuery(computed(() => outlineQuery(pairing())))
  const ask = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/asks', {
          params: { path: { pairing_pk: pairing() } },
        }),
      ),
    onSuccess: (asked) => window.location.assign(asked.url),
  })
  return { outline, reading, ask }
}
