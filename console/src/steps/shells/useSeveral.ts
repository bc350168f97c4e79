import { useQueryClient } from '@tanstack/vue-query'
import { ref, type Ref } from 'vue'
import { answered, api, Problem, type Schemas } from '@/api/client'
import { t } from '@/words'

export const DEED_NAMES = ['relay_on', 'relay_off', 'look', 'compare', 'nightly'] as const
export type Deed = (typeof DEED_NAMES)[number]

/** What came of one shell. */
export interface Outcome {
  shell: Schemas['Shell']
  well: boolean
  words: string
}

const at = (pairing: string) => ({ params: { path: { pairing_pk: pairing } } })
const turn = (id: string, relay_on: boolean) =>
  answered(api.PATCH('/api/v1/pairings/{id}', { params: { path: { id } }, body: { relay_on } }))

/** What each deed asks of one pairing. */
const DEEDS: Record<Deed, (pairing: string) => Promise<unknown>> = {
  relay_on: (id) => turn(id, true),
  relay_off: (id) => turn(id, false),
  look: (id) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/learner-checks', {
        ...at(id),
        body: { placements: [] },
      }),
    ),
  compare: (id) => answered(api.POST('/api/v1/pairings/{pairing_pk}/comparisons', at(id))),
  nightly: (id) =>
    answered(
      api.PATCH('/api/v1/pairings/{pairing_pk}/statement/schedule', {
        ...at(id),
        body: { nightly: true },
      }),
    ),
}

const refusalOf = (error: unknown) =>
  error instanceof Problem ? `${error.message} ${error.remedy}` : t('shells.unreachable')

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
        await DEEDS[deed](shell.pairing!)
        outcomes.value.push({ shell, well: true, words: t(`shells.done.${deed}`) })
      } catch (error) {
        outcomes.value.push({ shell, well: false, words: refusalOf(error) })
      }
    }
    busy.value = undefined
    await client.invalidateQueries({ queryKey: ['shells'] })
  }
  return { outcomes, busy, run }
}
