import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'

/** How scores come in beside reports, when a wait is too long, and reading them now. */
export function useSources(pairing: Ref<string>) {
  const path = computed(() => ({ pairing_pk: pairing.value }))
  const client = useQueryClient()
  const renew = () => client.invalidateQueries({ queryKey: ['pairing', pairing.value, 'relay'] })
  const change = useMutation({
    mutationFn: (body: { pull_minutes?: number; alarm_minutes?: number }) =>
      answered(
        api.PATCH('/api/v1/pairings/{pairing_pk}/relay/setting', {
          params: { path: path.value },
          body,
        }),
      ),
    onSuccess: renew,
  })
  const jobId = ref<string>()
  const { job, running } = useJob(jobId, pairing)
  const read = useMutation({
    mutationFn: () =>
      answered(api.POST('/api/v1/pairings/{pairing_pk}/pulls', { params: { path: path.value } })),
    onSuccess: (made) => (jobId.value = made.id),
  })
  return { change, job, running, read }
}
