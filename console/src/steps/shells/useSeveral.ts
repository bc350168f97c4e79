import { useQueryClient } from '@tanstack/vue-query'
import { ref, type Ref } from 'vue'
import { answered, api, Problem, type Schemas } from '@/api/client'

export type Deed = 'relay-on' | 'relay-off' | 'look' | 'compare' | 'nightly'

/** What came of one shell. */
export interface Outcome {
  shell: Schemas['Shell']
  well: boolean
  words: string
}

const at = (pairing: string) => ({ params: { path: { pairing_pk: pairing } } })

/** What each deed asks of one pairing; it answers what has begun, in words. */
const DEEDS: Record<Deed, (pairing: string) => Promise<string>> = {
  'relay-on': async (id) => {
    await answered(
      api.PATCH('/api/v1/pairings/{id}', { params: { path: { id } }, body: { relay_on: true } }),
    )
    return 'the relay is on'
  },
  'relay-off': async (id) => {
    await answered(
      api.PATCH('/api/v1/pairings/{id}', { params: { path: { id } }, body: { relay_on: false } }),
    )
    return 'the relay is off'
  },
  look: async (id) => {
    await answered(
      api.POST('/api/v1/pairings/{pairing_pk}/learner-checks', {
        ...at(id),
        body: { placements: [] },
      }),
    )
    return 'its links are being opened; a notice says what was met'
  },
  compare: async (id) => {
    await answered(api.POST('/api/v1/pairings/{pairing_pk}/comparisons', at(id)))
    return 'it is being compared'
  },
  nightly: async (id) => {
    await answered(
      api.PATCH('/api/v1/pairings/{pairing_pk}/statement/schedule', {
        ...at(id),
        body: { nightly: true },
      }),
    )
    return 'it is compared every night'
  },
}

const refusalOf = (error: unknown) =>
  error instanceof Problem
    ? `${error.message} ${error.remedy}`
    : 'Venn Pair cannot be reached; nothing was changed here.'

/** Do one thing in several shells, one after the other; what one refuses keeps no other back. */
export function useSeveral(chosen: Ref<Schemas['Shell'][]>) {
  const client = useQueryClient()
  const outcomes = ref<Outcome[]>([])
  const busy = ref<Deed>()
  async function run(deed: Deed) {
    busy.value = deed
    outcomes.value = []
    for (const shell of chosen.value) {
      try {
        outcomes.value.push({ shell, well: true, words: await DEEDS[deed](shell.pairing!) })
      } catch (error) {
        outcomes.value.push({ shell, well: false, words: refusalOf(error) })
      }
    }
    busy.value = undefined
    await client.invalidateQueries({ queryKey: ['shells'] })
  }
  return { outcomes, busy, run }
}
