import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import { checksQuery } from './queries'

/** Links opened as a test learner: the last check, its troubles, checking now. */
export function useLearnerChecks(pairing: Ref<string>) {
  const { data: checks } = useQuery(computed(() => checksQuery(pairing.value)))
  const last = computed(() => checks.value?.find((each) => each.job.state === 'done'))
  const troubled = computed(() => last.value?.rows.filter((row) => row.findings.length) ?? [])
  const jobId = ref<string>()
  const { job, running } = useJob(jobId, pairing)
  const start = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/learner-checks', {
          params: { path: { pairing_pk: pairing.value } },
          body: { placements: [] },
        }),
      ),
    onSuccess: (made) => (jobId.value = made.job.id),
  })
  return { last, troubled, job, running, start }
}
