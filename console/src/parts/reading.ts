import type { Ref } from 'vue'

/** What a query tells of a reading; ``const { data, ...reading } = useQuery(…)`` gives it. */
export interface Reading {
  isPending: Ref<boolean>
  isLoadingError: Ref<boolean>
  error: Ref<Error | null>
  refetch: () => unknown
}
