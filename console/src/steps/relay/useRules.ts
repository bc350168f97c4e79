import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, reactive, type Ref, ref, watch } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { relayQuery, rulesQuery } from './queries'

export interface Rule {
  relays: boolean
  when: string
  at: string
  late: string
  counts: string
  points: string
  places: number | null
  comments: boolean
  statuses: boolean
  look_first: boolean
}
const DEFAULTS: Rule = {
  relays: true,
  when: 'submission',
  at: '18:00',
  late: 'at_once',
  counts: 'publisher',
  points: 'given',
  places: null,
  comments: true,
  statuses: false,
  look_first: false,
}

/** The rule for all items, a category or one item: what is chosen, what it would mean, changing it. */
export function useRules(pairing: Ref<string>) {
  const client = useQueryClient()
  const { data: rules, error, isPending } = useQuery(computed(() => rulesQuery(pairing.value)))
  const scope = ref<Schemas['ScopeEnum']>('all')
  const key = ref('')
  const chosen = reactive<Rule>({ ...DEFAULTS })
  const categories = computed(() => [
    ...new Set(rules.value?.items.map((each) => each.category).filter(Boolean)),
  ])
  const own = computed<Record<string, unknown>>(() => {
    if (scope.value === 'category') return rules.value?.categories[key.value] ?? {}
    if (scope.value === 'item')
      return rules.value?.items.find((each) => each.item === key.value)?.own ?? {}
    return rules.value?.changes ?? {}
  })
  watch(
    [own],
    () => {
      Object.assign(chosen, DEFAULTS, rules.value?.changes, own.value)
    },
    { immediate: true },
  )
  watch(
    scope,
    (now) =>
      (key.value =
        now === 'category'
          ? (categories.value[0] ?? '')
          : now === 'item'
            ? (rules.value?.items[0]?.item ?? '')
            : ''),
  )
  const changes = () => {
    const wide: Record<string, unknown> = {
      ...DEFAULTS,
      ...(scope.value === 'all' ? {} : rules.value?.changes),
    }
    return Object.fromEntries(
      Object.entries(chosen).filter(([name, value]) => value !== wide[name]),
    )
  }
  const body = (dry: boolean, said: Record<string, unknown> = changes()) => ({
    params: { path: { pairing_pk: pairing.value } },
    body: { scope: scope.value, key: key.value, changes: said, dry_run: dry },
  })
  const foresee = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/pairings/{pairing_pk}/relay-rules', body(true))),
  })
  const change = useMutation({
    mutationFn: (said: Record<string, never> | undefined) =>
      answered(api.POST('/api/v1/pairings/{pairing_pk}/relay-rules', body(false, said))),
    onSuccess: () => {
      foresee.reset()
      client.invalidateQueries({ queryKey: relayQuery(pairing.value).queryKey })
    },
  })
  watch([chosen, scope, key], () => foresee.reset(), { deep: true })

  return {
    rules,
    isPending,
    error: computed(() => error.value ?? change.error.value ?? foresee.error.value),
    scope,
    key,
    chosen,
    categories,
    /** What was chosen for this scope itself. */
    own,
    foresee,
    change,
  }
}
