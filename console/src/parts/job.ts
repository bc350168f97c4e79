import { useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, watch } from 'vue'
import { answered, api } from '@/api/client'

export const ENDED = ['done', 'failed', 'cancelled']
const LOOK_MS = 400
const AFTER_ERROR_MS = 4_000 // a service in trouble is not asked as often

/** Follow a job until it has ended; then everything of its pairing is read again. */
export function useJob(id: Ref<string | undefined>, pairing: Ref<string>) {
  const client = useQueryClient()
  const { data: job } = useQuery({
    queryKey: computed(() => ['job', id.value]),
    queryFn: () => answered(api.GET('/api/v1/jobs/{id}', { params: { path: { id: id.value! } } })),
    enabled: computed(() => id.value !== undefined),
    refetchInterval: ({ state }) =>
      state.data && ENDED.includes(state.data.state)
        ? false
        : state.error
          ? AFTER_ERROR_MS
          : LOOK_MS,
  })
  const running = computed(
    () => id.value !== undefined && !(job.value && ENDED.includes(job.value.state)),
  )
  watch(running, (now, before) => {
    if (before && !now) client.invalidateQueries({ queryKey: ['pairing', pairing.value] })
  })
  return { job, running }
}
