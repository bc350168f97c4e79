import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'

/** Comparing what was sent with the gradebook, and sending what differs there. */
export function useSendingAgain(pairing: () => string) {
  const client = useQueryClient()
  const ask = (force: boolean, dry: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/relay', {
        params: { path: { pairing_pk: pairing() } },
        body: { force, dry_run: dry },
      }),
    )
  const compare = useMutation({ mutationFn: () => ask(false, true) })
  const again = useMutation({
    mutationFn: (force: boolean) => ask(force, false),
    onSuccess: () => {
      compare.reset()
      client.invalidateQueries({ queryKey: ['pairing', pairing()] })
    },
  })
  return { compare, again }
}
