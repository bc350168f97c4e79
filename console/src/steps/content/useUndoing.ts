import { useMutation } from '@tanstack/vue-query'
import { computed, onMounted, ref } from 'vue'
import { answered, api } from '@/api/client'
import { planUndo, undoOperation } from '@/steps/operations/operations'

/** Taking out what an import brought last: what would go, what stays and why, and doing it. */
export function useUndoing(given: { pairing: string; made: string }, done: (job: string) => void) {
  const last = ref('')
  const look = useMutation({
    mutationFn: async () => {
      const rows = await answered(
        api.GET('/api/v1/pairings/{pairing_pk}/imports/{id}/deliveries', {
          params: { path: { pairing_pk: given.pairing, id: given.made } },
        }),
      )
      const gone = rows.filter((row) => row.job.state === 'done').map((row) => row.undoes)
      last.value = rows.find((row) => !row.undoes && !gone.includes(row.id))?.job.id ?? ''
      return last.value ? planUndo(last.value) : []
    },
  })
  const undo = useMutation({
    mutationFn: () => undoOperation(last.value),
    onSuccess: (begun) => done(begun.id),
  })
  onMounted(() => look.mutate())
  const going = computed(() => look.data.value?.filter((each) => !each.why) ?? [])
  /** How many only come into learners' sight again. */
  const shown = computed(() => going.value.filter((each) => each.shows).length)
  const staying = computed(() => look.data.value?.filter((each) => each.why) ?? [])
  return { look, undo, going, shown, staying }
}
