import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { useJob } from '@/parts/job'
import { planUndo, undoOperation } from '@/steps/operations/operations'
import { settlementsQuery } from './queries'

/** What was settled in a pairing, with its undo, and what an assistant proposes. */
export function useSettlements(pairing: Ref<string>) {
  const client = useQueryClient()
  const { data: rows } = useQuery(computed(() => settlementsQuery(pairing.value)))
  const jobId = ref<string>()
  const { job } = useJob(jobId, pairing)
  const path = (settlement: string) => ({
    params: { path: { pairing_pk: pairing.value, id: settlement } },
  })
  const follow = (found: Schemas['Job'] | null | undefined) => {
    jobId.value = found?.id
    client.invalidateQueries({ queryKey: ['pairing', pairing.value] })
  }
  const undo = useMutation({
    mutationFn: (row: Schemas['SettlementLine']) => undoOperation(row.job!.id),
    onSuccess: async (begun) =>
      follow(await answered(api.GET('/api/v1/jobs/{id}', { params: { path: { id: begun.id } } }))),
  })
  const carry = useMutation({
    mutationFn: (settlement: string) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/settlements/{id}/carry-out', path(settlement)),
      ),
    onSuccess: (made) => follow(made.job),
  })
  const dismiss = useMutation({
    mutationFn: (settlement: string) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/settlements/{id}/dismiss', path(settlement)),
      ),
    onSuccess: () => follow(null),
  })
  const seen = useMutation({
    mutationFn: (row: Schemas['SettlementLine']) => planUndo(row.job!.id),
  })
  /** The settlement of which is shown what undoing it takes back. */
  const asked = computed(() => (seen.data.value ? seen.variables.value?.id : undefined))
  const proposals = computed(() => rows.value?.filter((row) => row.state === 'proposed') ?? [])
  const others = computed(() => rows.value?.filter((row) => row.state !== 'proposed') ?? [])
  return { proposals, others, job, undo, carry, dismiss, asked, seen }
}
