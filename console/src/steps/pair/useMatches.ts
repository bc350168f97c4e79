import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answered, api } from '@/api/client'
import { matchesQuery } from './queries'

/** Which learner of the publisher is which of the shell: proposed, confirmed, undone. */
export function useMatches(pairing: () => string) {
  const client = useQueryClient()
  const { data: found, ...reading } = useQuery(computed(() => matchesQuery(pairing())))
  const again = () => client.invalidateQueries({ queryKey: ['pairing', pairing()] })
  const path = (id: number) => ({ path: { pairing_pk: pairing(), id } })
  const confirm = useMutation({
    mutationFn: (body: { student: string; learner: string }) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/matches', {
          params: { path: { pairing_pk: pairing() } },
          body,
        }),
      ),
    onSuccess: again,
  })
  const undo = useMutation({
    mutationFn: (id: number) =>
      answered(api.DELETE('/api/v1/pairings/{pairing_pk}/matches/{id}', { params: path(id) })),
    onSuccess: again,
  })
  return { found, reading, confirm, undo }
}
