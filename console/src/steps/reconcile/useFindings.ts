import { useInfiniteQuery } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { findingsQuery } from './queries'

const FILTERS = [
  'kind',
  'scope',
  'side',
  'item',
  'learner',
  'placement',
  'person',
  'kept',
  'new',
] as const
export const VIEWS = ['matrix', 'scatter', 'trend', 'ready'] as const
export type View = (typeof VIEWS)[number]

/** The findings that the address asks for, and which picture of the class is beside them. */
export function useFindings(
  pairing: Ref<string>,
  comparison: Ref<Schemas['Comparison'] | null | undefined>,
) {
  const route = useRoute()
  const router = useRouter()
  const query = (name: string) => {
    const given = route.query[name]
    return typeof given === 'string' ? given : ''
  }
  const filters = computed<Record<string, string>>(() =>
    Object.fromEntries(FILTERS.flatMap((name) => (query(name) ? [[name, query(name)]] : []))),
  )
  const cell = computed(() =>
    filters.value.placement && filters.value.person
      ? { placement: filters.value.placement, person: filters.value.person }
      : undefined,
  )
  const view = computed<View>(() => VIEWS.find((each) => each === query('view')) ?? 'matrix')
  // What is kept is shown where somebody asks for it or chose the cell; else only what is open.
  const wanted = computed(() =>
    filters.value.kept || cell.value ? filters.value : { ...filters.value, kept: 'false' },
  )
  const findings = useInfiniteQuery(
    computed(() => ({
      ...findingsQuery(pairing.value, comparison.value?.id ?? '', wanted.value),
      enabled: Boolean(comparison.value),
    })),
  )
  const narrow = (more: Record<string, string>) => ({
    query: { ...(view.value === 'matrix' ? {} : { view: view.value }), ...more },
  })
  return {
    filters,
    filtered: computed(() => Object.keys(filters.value).length > 0),
    cell,
    view,
    findings,
    rows: computed(() => findings.data.value?.pages.flatMap((page) => page.results) ?? []),
    /** The address of these findings only, beside the same picture. */
    narrow,
    choose: (placement: string, person: string) => router.push(narrow({ placement, person })),
  }
}
