import { useMutation } from '@tanstack/vue-query'
import { computed, ref, watch } from 'vue'
import { answered, api, type Schemas, shaped } from '@/api/client'
import { usePlan } from '@/parts/usePlan'
import { type Change, sheetOfChange } from './changing'

/** One change of placed links: what is said of it, what would come of it, and doing it. */
export function useChange(
  given: { pairing: string; placements: Schemas['Placement'][] },
  begun: (rollouts: Schemas['WholeRollout'][]) => void,
) {
  const way = ref<Change['way']>('hide')
  const value = ref('')
  watch(way, () => (value.value = way.value === 'rename' ? '{unit}: {title}' : ''))
  const change = computed<Change>(() => ({ way: way.value, value: value.value.trim() }))
  const whole = computed(() => ['hide', 'show'].includes(way.value) || Boolean(change.value.value))
  const body = computed(() => ({
    items: given.placements.map((each) => each.item),
    ...sheetOfChange(change.value),
  }))
  const send = (wanted: typeof body.value, dry_run: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/rollouts', {
        params: { path: { pairing_pk: given.pairing } },
        body: { ...wanted, dry_run },
      }),
    )
  const { plan, error, pending } = usePlan(
    computed(() => (whole.value ? body.value : undefined)),
    async (wanted) => shaped(await send(wanted, true), 'shells'),
  )
  const go = useMutation({
    mutationFn: async () => shaped(await send(body.value, false), 'rollouts'),
    onSuccess: ({ rollouts }) => begun(rollouts),
  })
  const trouble = computed(() => error.value ?? go.error.value)
  return { way, value, plan, error: trouble, pending, go }
}
