import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { answered, api } from '@/api/client'
import { statementQuery } from './queries'

/** May the grades be submitted: what keeps them back, and when that is asked. */
export function useStatement(pairing: Ref<string>) {
  const client = useQueryClient()
  const { data: said, ...reading } = useQuery(computed(() => statementQuery(pairing.value)))
  const change = useMutation({
    mutationFn: (body: { nightly?: boolean; grades_due?: string | null }) =>
      answered(
        api.PATCH('/api/v1/pairings/{pairing_pk}/statement/schedule', {
          params: { path: { pairing_pk: pairing.value } },
          body,
        }),
      ),
    onSuccess: () => client.invalidateQueries(statementQuery(pairing.value)),
  })
  return { said, reading, change }
}
