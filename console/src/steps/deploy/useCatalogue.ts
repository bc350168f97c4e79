import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { useWhole } from '@/parts/useWhole'
import { catalogueQuery, itemsQuery } from '@/steps/content/queries'

/** All items of the homework course, and what of its catalogue changed since it was read before. */
export function useCatalogue(pairing: Ref<string>) {
  const items = useInfiniteQuery(computed(() => itemsQuery(pairing.value, {})))
  useWhole(items)
  const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
  const { data: readings } = useQuery(computed(() => catalogueQuery(pairing.value)))
  return {
    items,
    rows,
    changed: computed(
      () => new Set(readings.value?.[0]?.changes.map((change) => change.title) ?? []),
    ),
    categories: computed(() =>
      [...new Set(rows.value.map((item) => item.category))].filter(Boolean),
    ),
  }
}
