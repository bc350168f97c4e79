import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import { pairingQuery } from '@/steps/pair/queries'
import { latestComparisonQuery } from './queries'

/** The newest comparison of a pairing, and comparing now. */
export function useComparing(pairing: Ref<string>) {
  const { data: about } = useQuery(computed(() => pairingQuery(pairing.value)))
  const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
  const { data: comparison, ...reading } = useQuery(
    computed(() => latestComparisonQuery(pairing.value)),
  )
  // What a file was compared with is not written to the gradebook.
  const mayAct = computed(() => Boolean(about.value) && !comparison.value?.file)
  const jobId = ref<string>()
  const { job, running } = useJob(jobId, pairing)
  const compare = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/comparisons', {
          params: { path: { pairing_pk: pairing.value } },
        }),
      ),
    onSuccess: (made) => (jobId.value = made.job.id),
  })
  return { about, zone, comparison, reading, mayAct, jobId, job, running, compare }
}
