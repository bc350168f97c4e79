import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import { averagesQuery } from './queries'

/** The columns that hold an average, and sending one to the gradebook. */
export function useAverages(pairing: Ref<string>) {
  const { data: averages, refetch } = useQuery(computed(() => averagesQuery(pairing.value)))
  const jobId = ref<string>()
  const { job } = useJob(jobId, pairing)
  const send = useMutation({
    mutationFn: async (average: string) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/averages/{id}/send', {
          params: { path: { pairing_pk: pairing.value, id: average } },
        }),
      ),
    onSuccess: (made) => (jobId.value = made.id),
  })
  return { averages, refetch, job, send }
}
