import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import type { Wanted } from './remedies'

const FIRST = 12 // steps that are shown before somebody asks for all

/** What settling would write, step by step, and writing it. */
export function useSettling(pairing: Ref<string>, comparison: Ref<string>, wanted: Ref<Wanted>) {
  const ask = (dry: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/settlements', {
        params: { path: { pairing_pk: pairing.value } },
        body: { comparison: comparison.value, ...wanted.value, dry_run: dry },
      }),
    )
  const { data: preview, ...reading } = useQuery({
    queryKey: computed(() => ['preview', comparison.value, wanted.value]),
    queryFn: () => ask(true),
    gcTime: 0,
  })
  const jobId = ref<string>()
  const { job, running } = useJob(jobId, pairing)
  const proposed = ref(false)
  const go = useMutation({
    mutationFn: () => ask(false),
    onSuccess: (made) => {
      jobId.value = made.settlement?.job?.id
      proposed.value = made.settlement?.state === 'proposed'
    },
  })
  const unfolded = ref(false)
  const steps = computed(
    () => (unfolded.value ? preview.value?.steps : preview.value?.steps.slice(0, FIRST)) ?? [],
  )
  return { preview, reading, steps, unfolded, go, job, running, proposed }
}
