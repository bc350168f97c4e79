import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

/** Turning the relay on or off, and releasing what it holds. */
export function useRelay(pairing: () => string) {
  const client = useQueryClient()
  const renew = () => client.invalidateQueries({ queryKey: ['pairing', pairing()] })
  const turn = useMutation({
    mutationFn: (on: boolean) =>
      answered(
        api.PATCH('/api/v1/pairings/{id}', {
          params: { path: { id: pairing() } },
          body: { relay_on: on },
        }),
      ),
    onSuccess: renew,
  })
  const release = useMutation({
    mutationFn: (early: boolean) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/releases', {
          params: { path: { pairing_pk: pairing() } },
          body: { placements: [], early, dry_run: false },
        }),
      ),
    onSuccess: renew,
  })
  return { turn, release }
}
