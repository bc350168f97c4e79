import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered, api } from '@/api/client'
import { usePlan } from '@/parts/usePlan'

/** Naming the chosen entries by a pattern: what each would be called, and doing it. */
export function useRenaming(
  given: { pairing: string; made: string; chosen: string[] },
  done: () => void,
) {
  const client = useQueryClient()
  const pattern = ref('{unit}: {title}')
  const body = computed(() => ({ entries: given.chosen, pattern: pattern.value }))
  const ask = (wanted: typeof body.value, dry_run: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/rename', {
        params: { path: { pairing_pk: given.pairing, import_pk: given.made } },
        body: { ...wanted, names: {}, dry_run },
      }),
    )
  const { plan, error } = usePlan(
    computed(() => (body.value.pattern.trim() && given.chosen.length ? body.value : undefined)),
    (wanted) => ask(wanted, true),
  )
  const rename = useMutation({
    mutationFn: () => ask(body.value, false),
    onSuccess: () => {
      client.invalidateQueries({ queryKey: ['pairing', given.pairing] })
      done()
    },
  })
  return { pattern, plan, error, rename }
}
