import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { useJob } from '@/parts/job'
import { type Access, firstStepsQuery } from './queries'

/** The page that tells learners how to begin, by how they get access, and placing it. */
export function useFirstSteps(pairing: () => Schemas['Pairing']) {
  const client = useQueryClient()
  const access = ref<Access>((pairing().access || 'code') as Access)
  const { data: page, error } = useQuery(
    computed(() => firstStepsQuery(pairing().id, access.value)),
  )
  const choose = useMutation({
    mutationFn: (place: boolean) =>
      answered(
        api.POST('/api/v1/pairings/{id}/first-steps', {
          params: { path: { id: pairing().id } },
          body: { access: access.value, place },
        }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', pairing().id] }),
  })
  const { job } = useJob(
    computed(() => choose.data.value?.job?.id),
    computed(() => pairing().id),
  )
  return { access, page, error, choose, job }
}
