import { useMutation } from '@tanstack/vue-query'
import { ref } from 'vue'
import { answered, api } from '@/api/client'
import { asForm } from './files/sending'

/** Comparing with a gradebook that is given as a file. */
export function useGivenGradebook(pairing: () => string, begun: (job: string) => void) {
  const file = ref<File>()
  const layout = ref('')
  const compare = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/comparisons', {
          params: { path: { pairing_pk: pairing() } },
          ...asForm({ gradebook: file.value, layout: layout.value }),
        }),
      ),
    onSuccess: (made) => begun(made.job.id),
  })
  return { file, layout, compare }
}
