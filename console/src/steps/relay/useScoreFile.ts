import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, shallowRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { asForm } from '@/steps/reconcile/files/sending'

/** A file of scores: what is in it, and taking it. */
export function useScoreFile(pairing: () => string) {
  const client = useQueryClient()
  const file = ref<File>()
  const layout = ref('')
  const taken = ref('')
  const send = (dry: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/score-files', {
        params: { path: { pairing_pk: pairing() } },
        ...asForm({ file: file.value, layout: layout.value, dry_run: String(dry) }),
      }),
    )
  const of = shallowRef<{ file: File | undefined; layout: string }>()
  const look = useMutation({
    mutationFn: () => {
      of.value = { file: file.value, layout: layout.value }
      return send(true)
    },
  })
  // Of the file and the layout that are chosen now: what was found in others is not taken.
  const seen = computed(() =>
    of.value?.file === file.value && of.value?.layout === layout.value
      ? look.data.value
      : undefined,
  )
  const take = useMutation({
    mutationFn: () => send(false),
    onSuccess: (made: Schemas['TakenFile']) => {
      look.reset()
      taken.value = made.words
      client.invalidateQueries({ queryKey: ['pairing', pairing(), 'relay'] })
    },
  })
  const choose = (chosen: File | undefined) => {
    file.value = chosen
    layout.value = ''
    taken.value = ''
    look.reset()
    take.reset()
  }
  return { file, layout, seen, taken, look, take, choose }
}
