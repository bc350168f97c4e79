import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { asForm } from '@/steps/reconcile/files/sending'

/** A file of scores: what is in it, and taking it. */
export function useScoreFile(pairing: () => string) {
  const client = useQueryClient()
  const file = ref<File>()
  const layout = ref('')
  const seen = ref<Schemas['TakenFile']>()
  const taken = ref('')
  const send = (dry: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/score-files', {
        params: { path: { pairing_pk: pairing() } },
        ...asForm({ file: file.value, layout: layout.value, dry_run: String(dry) }),
      }),
    )
  const look = useMutation({
    mutationFn: () => send(true),
    onSuccess: (made) => (seen.value = made),
  })
  const take = useMutation({
    mutationFn: () => send(false),
    onSuccess: (made) => {
      seen.value = undefined
      taken.value = made.words
      client.invalidateQueries({ queryKey: ['pairing', pairing(), 'relay'] })
    },
  })
  const choose = (chosen: File | undefined) => {
    file.value = chosen
    seen.value = undefined
    taken.value = ''
  }
  return { file, layout, seen, taken, look, take, choose }
}
