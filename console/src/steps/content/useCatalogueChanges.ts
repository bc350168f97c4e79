import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { catalogueQuery } from './queries'

/** What changed at the publisher since the last reading, reading again, and taking it as an import. */
export function useCatalogueChanges(pairing: Ref<string>) {
  const client = useQueryClient()
  const router = useRouter()
  const { data: readings } = useQuery(computed(() => catalogueQuery(pairing.value)))
  const last = computed(() => readings.value?.[0])
  const refresh = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/catalogue', {
          params: { path: { pairing_pk: pairing.value } },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', pairing.value] }),
  })
  const take = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports', {
          params: { path: { pairing_pk: pairing.value } },
          body: { source: 'catalogue' },
        }),
      ),
    onSuccess: (made) =>
      router.push({ name: 'import', params: { pairing: pairing.value, import: made.id } }),
  })
  return { last, refresh, take }
}
