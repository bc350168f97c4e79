import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api, cursorOf, type Schemas, shaped } from '@/api/client'
import type { operations } from '@/api/schema'
import { askAgain } from '@/parts/askAgain'

export type Operation = Schemas['Operation']
export type Wanted = NonNullable<operations['operations_list']['parameters']['query']>

const GOING = ['queued', 'running', 'waiting']
const MOST_STEPS = 1000

/** Say whether an operation is under way. */
export const isGoing = (operation: Operation) => GOING.includes(operation.state)

/** Read the newest operations; again and again while one of them is under way. */
export const operationsQuery = (wanted: Wanted) =>
  queryOptions({
    queryKey: ['operations', wanted],
    queryFn: () =>
      answered(
        api.GET('/api/v1/operations', {
          params: { query: { ...wanted, limit: 100 } },
        }),
      ),
    refetchInterval: ({ state }) =>
      askAgain(800, Boolean(state.data?.results.some(isGoing)), state.error),
  })

/** Read every step of an operation, page after page. */
export const stepsQuery = (operation: string, done: number) =>
  queryOptions({
    queryKey: ['operations', operation, 'steps', done],
    enabled: operation !== '',
    placeholderData: (before: Schemas['OperationStep'][] | undefined) => before,
    queryFn: async () => {
      const rows: Schemas['OperationStep'][] = []
      for (let cursor: string | undefined = ''; cursor !== undefined && rows.length < MOST_STEPS;) {
        const page: Schemas['PaginatedOperationStepList'] = await answered(
          api.GET('/api/v1/operations/{id}/steps', {
            params: {
              path: { id: operation },
              query: { limit: 500, ...(cursor ? { cursor } : {}) },
            },
          }),
        )
        rows.push(...page.results)
        cursor = cursorOf(page.next)
      }
      return rows
    },
  })

/** Say what undoing an operation would do, and what stays and why. */
export const planUndo = async (operation: string) =>
  shaped(
    await answered(
      api.POST('/api/v1/operations/{id}/undo', {
        params: { path: { id: operation } },
        body: { dry_run: true },
      }),
    ),
    'length',
  )

/** Undo what is safe to undo of an operation; return the operation that does it. */
export const undoOperation = async (operation: string) =>
  shaped(
    await answered(
      api.POST('/api/v1/operations/{id}/undo', {
        params: { path: { id: operation } },
        body: { dry_run: false },
      }),
    ),
    'id',
  )

/** Return what may be done with one operation; everything of its pairing is read again after it. */
export function useOperation(operation: Ref<Operation>) {
  const client = useQueryClient()
  const path = computed(() => ({ params: { path: { id: operation.value.id } } }))
  const changed = () => {
    client.invalidateQueries({ queryKey: ['operations'] })
    client.invalidateQueries({ queryKey: ['pairing', operation.value.pairing] })
  }
  const open = ref(false)
  const { data: steps } = useQuery(
    computed(() => stepsQuery(open.value ? operation.value.id : '', operation.value.done)),
  )
  const stop = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/operations/{id}/stop', path.value)),
    onSuccess: changed,
  })
  const retry = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/operations/{id}/retry', path.value)),
    onSuccess: changed,
  })
  const look = useMutation({ mutationFn: () => planUndo(operation.value.id) })
  const undo = useMutation({
    mutationFn: () => undoOperation(operation.value.id),
    onSuccess: () => {
      look.reset()
      changed()
    },
  })
  const error = computed(
    () => stop.error.value ?? retry.error.value ?? look.error.value ?? undo.error.value,
  )
  return { open, steps, stop, retry, look, undo, error }
}
