import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, reactive, type Ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { t } from '@/words'
import { gradedQuery } from './queries'

/** A column for an average: what counts in it, how it weighs, and making it. */
export function useTotal(pairing: Ref<string>, done: (made: Schemas['Average']) => void) {
  const { data: items } = useQuery(computed(() => gradedQuery(pairing.value)))
  const counting = computed(() => (items.value ?? []).filter((item) => Number(item.points) > 0))
  const categories = computed(() =>
    [...new Set(counting.value.map((item) => item.category))].filter(Boolean),
  )
  const form = reactive({
    title: t('deploy.total_form.homework_average'),
    points: '100',
    of: [] as string[],
    weighting: 'equal' as const as 'equal' | 'points' | 'categories',
    missing: 'until_due' as const as 'until_due' | 'ignored' | 'zero',
    places: 2,
    keeps_up: false,
    weights: {} as Record<string, string>,
  })
  const weighed = computed(() => (form.of.length ? form.of : categories.value))
  const make = useMutation({
    mutationFn: () => {
      const { title, points, weighting, missing, places, keeps_up } = form
      const which =
        form.of.length || weighting === 'categories'
          ? { categories: weighed.value }
          : { items: counting.value.map((item) => item.id) }
      const weights =
        weighting === 'categories'
          ? Object.fromEntries(
              weighed.value.map((name) => [name, form.weights[name]?.trim() || '1']),
            )
          : {}
      return answered(
        api.POST('/api/v1/pairings/{pairing_pk}/averages', {
          params: { path: { pairing_pk: pairing.value } },
          body: { title, points, weighting, missing, places, keeps_up, weights, ...which },
        }),
      )
    },
    onSuccess: (made) => done(made),
  })
  return { form, counting, categories, weighed, make }
}
