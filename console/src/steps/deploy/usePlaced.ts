import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, nextTick, ref, watch, type Ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { groupBy } from '@/logic/groups'
import { pairingQuery } from '@/steps/pair/queries'
import { placementsQuery } from './queries'

type Placement = Schemas['Placement']

/** What is placed in one shell, folder by folder, what of it is selected, and how it is put in order. */
export function usePlaced(pairing: Ref<string>) {
  const { data: about } = useQuery(computed(() => pairingQuery(pairing.value)))
  const { data, ...reading } = useQuery(computed(() => placementsQuery(pairing.value)))
  const placements = computed(() => data.value ?? [])
  const sorted = computed(() => [...placements.value].sort((a, b) => a.place - b.place))
  const folders = computed(() => groupBy(sorted.value, (each) => each.folder_id || ''))
  const different = (some: string[]) => [...new Set(some)].filter(Boolean)

  const chosen = ref<string[]>([])
  const isOn = (some: Placement[]) => some.every((each) => chosen.value.includes(each.id))
  const choose = (some: Placement[], on: boolean) => {
    const ids = some.map((each) => each.id)
    chosen.value = [...chosen.value.filter((id) => !ids.includes(id)), ...(on ? ids : [])]
  }

  const begun = ref<Schemas['WholeRollout'][]>([])
  const started = (rollouts: Schemas['WholeRollout'][]) => {
    begun.value = [...rollouts, ...begun.value]
    chosen.value = []
  }
  const ordering = useMutation({
    mutationFn: (body: Schemas['NewOrderRequest']) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/orders', {
          params: { path: { pairing_pk: pairing.value } },
          body,
        }),
      ),
    onSuccess: (made) => {
      if ('job' in made) begun.value = [made, ...begun.value]
    },
  })

  // A row that moves loses the focus: give it back once the list shows its new place.
  const moved = ref('')
  watch(sorted, async () => {
    if (!moved.value) return
    await nextTick()
    const row = document.querySelector(`[data-entry="${CSS.escape(moved.value)}"]`)
    if (document.activeElement === document.body)
      row?.querySelector<HTMLElement>('[role=checkbox]')?.focus()
  })
  /** Put one link after another of its folder, or first where none is named. */
  const put = (entry: string, after: string) => {
    if (entry === after || ordering.isPending.value) return
    moved.value = entry
    ordering.mutate({ entries: [entry], after: after || 'start' })
  }
  return {
    about,
    placements,
    reading,
    folders,
    categories: computed(() => different(sorted.value.map((each) => each.category))),
    names: computed(() => different(sorted.value.map((each) => each.folder))),
    rows: computed(() => sorted.value.filter((each) => chosen.value.includes(each.id))),
    chosen,
    isOn,
    choose,
    begun,
    started,
    ordering,
    put,
  }
}
