import { useMutation } from '@tanstack/vue-query'
import { computed, onMounted, ref } from 'vue'
import { answered, api, type Schemas, shaped } from '@/api/client'

/** Taking links back: what their columns hold, what becomes of that, and doing it. */
export function useTakingBack(
  given: { pairing: string; placements: string[] },
  done: (made: Schemas['WholeRollout']) => void,
) {
  const scores = ref<'keep' | 'export' | 'remove'>('keep')
  const ask = (dry: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/placements/take-back', {
        params: { path: { pairing_pk: given.pairing } },
        body: { placements: given.placements, scores: scores.value, dry_run: dry },
      }),
    )
  const look = useMutation({ mutationFn: async () => shaped(await ask(true), 'length') })
  const go = useMutation({
    mutationFn: async () => shaped(await ask(false), 'id'),
    onSuccess: done,
  })
  onMounted(() => look.mutate())
  const held = computed(() => look.data.value?.filter((each) => each.scores) ?? [])
  return { scores, look, go, held }
}
