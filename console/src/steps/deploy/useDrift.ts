import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { groupBy } from '@/logic/groups'
import { useJob } from '@/parts/job'
import { pairingQuery } from '@/steps/pair/queries'
import { driftQuery } from './queries'

export type Way = 'ask' | 'follow' | 'keep'

/** What was changed outside since links were placed, looking again, and what becomes of it. */
export function useDrift(pairing: Ref<string>) {
  const client = useQueryClient()
  const path = computed(() => ({ pairing_pk: pairing.value }))
  const { data: about } = useQuery(computed(() => pairingQuery(pairing.value)))
  const { data: watch, ...reading } = useQuery(computed(() => driftQuery(pairing.value)))
  const groups = computed(() =>
    groupBy(watch.value?.drifts ?? [], (each) =>
      each.side === 'publisher' ? 'publisher' : 'shell',
    ),
  )
  const jobId = ref<string>()
  const { job, running } = useJob(jobId, pairing)
  const look = useMutation({
    mutationFn: () =>
      answered(api.POST('/api/v1/pairings/{pairing_pk}/drifts', { params: { path: path.value } })),
    onSuccess: (made) => (jobId.value = made.id),
  })
  const begun = ref<Schemas['WholeRollout'][]>([])
  const mend = useMutation({
    mutationFn: async ({ drifts, way }: { drifts: string[]; way: 'follow' | 'keep' }) =>
      (
        await answered(
          api.POST('/api/v1/pairings/{pairing_pk}/drifts/mend', {
            params: { path: path.value },
            body: { drifts, way },
          }),
        )
      ).rollout,
    onSuccess: (made) => {
      if (made) begun.value = [made, ...begun.value]
      client.invalidateQueries({ queryKey: ['pairing', pairing.value] })
    },
  })
  const choose = useMutation({
    mutationFn: (way: Way) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/drifts/way', {
          params: { path: path.value },
          body: { way },
        }),
      ),
    onSuccess: () => client.invalidateQueries(driftQuery(pairing.value)),
  })
  const every = computed(() => watch.value?.drifts.map((each) => each.id) ?? [])
  return { about, watch, reading, groups, every, job, running, look, begun, mend, choose }
}
