import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import { latestComparisonQuery } from '@/steps/reconcile/queries'
import { pairingQuery, readinessQuery } from './queries'

/** Everything that the pairing's first page shows, and the two things that it does at once. */
export function usePairing(id: Ref<string>) {
  const client = useQueryClient()
  const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
  const { data: checks, ...reading } = useQuery(computed(() => readinessQuery(id.value)))
  const { data: comparison } = useQuery(computed(() => latestComparisonQuery(id.value)))
  const jobId = ref<string>()
  const { job, running } = useJob(jobId, id)
  const compare = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/comparisons', {
          params: { path: { pairing_pk: id.value } },
        }),
      ),
    onSuccess: (made) => (jobId.value = made.job.id),
  })
  const relay = useMutation({
    mutationFn: (on: boolean) =>
      answered(
        api.PATCH('/api/v1/pairings/{id}', {
          params: { path: { id: id.value } },
          body: { relay_on: on },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', id.value] }),
  })
  const setUpId = computed(() =>
    about.value?.set_up && about.value.set_up.state !== 'done' ? about.value.set_up.id : undefined,
  )
  const { job: setUp } = useJob(setUpId, id)
  return {
    ...{ about, checks, reading, comparison, job, running },
    ...{ compare, relay, setUp },
  }
}
