import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { useRoute } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import { isBusy, planQuery, setUpQuery, type Wishes } from './queries'
import { t } from '@/words'

/** The stations of setting up, and which of them a set-up is at. */
export const STATIONS = [
  t('set_up.use_set_up.which_belong_together'),
  t('set_up.use_set_up.what_and_where'),
  t('set_up.use_set_up.live'),
]

export function stationOf(found: Schemas['SetUp'] | undefined): number {
  return !found || !found.started_at ? 1 : 2
}

/** What learners and scores need, in the words of the form. */
export interface Choices {
  undated: 'ask' | 'column' | 'link'
  folders: Record<string, string>
  shift: number
  scores: 'submission' | 'due' | 'later'
  access: '' | 'code' | 'fee' | 'free'
  navigation: boolean
  way: 'columns' | 'average' | 'course'
  total: boolean
  readings: boolean
  review: 'keep' | 'hide' | 'leave_out'
  update: boolean
  category: string
  columnsShown: boolean
}

const TOTAL = t('set_up.use_set_up.homework_total')
const USUAL: Choices = {
  undated: 'ask',
  folders: {},
  shift: 0,
  scores: 'submission',
  access: '',
  navigation: false,
  way: 'columns',
  total: false,
  readings: false,
  review: 'keep',
  update: false,
  category: 'publisher',
  columnsShown: true,
}

/** What was chosen, as the service takes it: nothing is said where the guess stays. */
export function wishesOf(choices: Choices): Wishes {
  return {
    undated: choices.undated,
    folders: { ...choices.folders },
    scores: choices.scores,
    access: choices.access,
    navigation: choices.navigation,
    way: choices.way,
    total: choices.total && choices.way !== 'average' ? TOTAL : '',
    readings: choices.readings,
    review: choices.review,
    update: choices.update,
    category: choices.category || 'none',
    columns_shown: choices.columnsShown,
    ...(choices.shift ? { shift_days: choices.shift } : {}),
  }
}

/** In how many sections something would be written: links made or changed, readings, a total. */
export const writing = (plan: Schemas['SetUpPlan'] | undefined) =>
  plan?.sections.filter((each) => each.writes).length ?? 0

/** A set-up that was begun: its plan as the choices are, and what can be done with it. */
export function useSetUp(id: Ref<string>) {
  const client = useQueryClient()
  const found = useQuery(computed(() => setUpQuery(id.value)))
  // A copied shell comes with the dates of its last term.
  const copied = useRoute().query.copied !== undefined
  const choices = ref<Choices>({ ...USUAL, folders: {}, update: copied })
  const ready = computed(
    () =>
      !!found.data.value &&
      !found.data.value.started_at &&
      !isBusy(found.data.value) &&
      found.data.value.sections.some((each) => each.stage === 'ready'),
  )
  const plan = useQuery(
    computed(() => ({
      ...planQuery(id.value, wishesOf(choices.value)),
      enabled: ready.value,
      placeholderData: keepPreviousData,
    })),
  )
  const changed = () => {
    client.invalidateQueries({ queryKey: ['set-up', id.value], exact: true }) // not the plan
    client.invalidateQueries({ queryKey: ['shells'] })
  }
  const path = () => ({ params: { path: { id: id.value } } })
  const start = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/set-ups/{id}/start', {
          ...path(),
          body: wishesOf(choices.value),
        }),
      ),
    onSuccess: changed,
  })
  const stop = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/set-ups/{id}/stop', path())),
    onSuccess: changed,
  })
  const undo = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/set-ups/{id}/undo', path())),
    onSuccess: changed,
  })
  return { found, choices, ready, plan, start, stop, undo }
}
