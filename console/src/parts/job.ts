import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, watch } from 'vue'
import { answered, api } from '@/api/client'
import { askAgain } from './askAgain'

export const ENDED = ['done', 'failed', 'cancelled']

/** Follow a job until it has ended; then everything of its pairing is read again. */
export function useJob(id: Ref<string | undefined>, pairing: Ref<string>) {
  const client = useQueryClient()
  const { data: job } = useQuery({
    queryKey: computed(() => ['job', id.value]),
    queryFn: () => answered(api.GET('/api/v1/jobs/{id}', { params: { path: { id: id.value! } } })),
    enabled: computed(() => id.value !== undefined),
    refetchInterval: ({ state }) =>
      askAgain(400, !(state.data && ENDED.includes(state.data.state)), state.error),
  })
  const running = computed(
    () => id.value !== undefined && !(job.value && ENDED.includes(job.value.state)),
  )
  watch(running, (now, before) => {
    if (before && !now) client.invalidateQueries({ queryKey: ['pairing', pairing.value] })
  })
  return { job, running }
}
