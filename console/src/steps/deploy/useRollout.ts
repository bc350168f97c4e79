import { useMutation } from '@tanstack/vue-query'
import { ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { useJob } from '@/parts/job'

/** A rollout under way, and stopping it. */
export function useRollout(rollout: Schemas['WholeRollout']) {
  const jobId = ref<string | undefined>(rollout.job.id)
  const { job, running } = useJob(jobId, ref(rollout.pairing))
  const stop = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/operations/{id}/stop', { params: { path: { id: rollout.job.id } } }),
      ),
  })
  return { job, running, stop }
}
