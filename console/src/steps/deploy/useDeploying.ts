import { useQuery } from '@tanstack/vue-query'
import { computed, ref, type Ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useKept } from '@/parts/useKept'
import { pairingQuery } from '@/steps/pair/queries'
import { useFirstReading } from './reading'
import { HOW, NOWHERE, useSheet } from './sheet'
import { useCatalogue } from './useCatalogue'
import { useSections } from './useSections'

/** What of a homework course goes where in how many shells, and how: chosen, foreseen, kept, begun. */
export function useDeploying(pairing: Ref<string>) {
  const route = useRoute()
  const { data: about } = useQuery(computed(() => pairingQuery(pairing.value)))
  const { items, rows, changed, categories } = useCatalogue(pairing)
  const chosen = ref<string[]>(
    String(route.query.chosen ?? '')
      .split(',')
      .filter(Boolean),
  )
  const begun = ref<Schemas['WholeRollout'][]>([])
  const { place, how, shift, sections, folders, wishes, plans, error, busy, again, deploy, write } =
    useSheet(pairing, chosen, (rollouts) => {
      begun.value = rollouts
      window.scrollTo({ top: 0 })
    })
  const firstReadings = useFirstReading(plans, again)
  useSections(pairing, sections)
  const kept = useKept(
    `deploy.${pairing.value}`,
    () =>
      chosen.value.length
        ? {
            chosen: chosen.value,
            place: place.value,
            how,
            shift: shift.value,
            wishes: wishes.value,
          }
        : undefined,
    (was) => {
      if (!chosen.value.length) chosen.value = was.chosen
      place.value = was.place
      Object.assign(how, was.how)
      shift.value = was.shift
      wishes.value = was.wishes
    },
  )
  function startOver() {
    chosen.value = []
    wishes.value = {}
    shift.value = 0
    place.value = { ...NOWHERE }
    Object.assign(how, HOW)
  }
  watch(
    () => items.isSuccess.value && !items.hasNextPage.value,
    (all) => {
      const there = new Set(rows.value.map((item) => item.id))
      if (all) chosen.value = chosen.value.filter((each) => there.has(each)) // some may be gone since
    },
    { immediate: true },
  )
  const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
  const units = computed(() => [
    ...new Set(
      rows.value
        .filter((item) => chosen.value.includes(item.id) && item.unit)
        .map((item) => item.unit),
    ),
  ])
  const into = computed(() => [
    { pairing: pairing.value, label: about.value?.shell.label ?? '' },
    ...sections.value.filter((each) => each.on),
  ])
  return {
    ...{ about, zone, items, rows, changed, categories, chosen, units, sections, into },
    ...{ place, how, shift, folders, wishes, plans, error, busy, firstReadings },
    ...{ begun, deploy, write, kept, startOver },
  }
}
