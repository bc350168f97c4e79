import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { consentQuery } from './queries'

export type State = 'live' | 'paused' | 'ended'

/** Which states a pairing may go to from where it is; from any other it may be ended. */
export const NEXT: Record<string, State[]> = {
  live: ['paused', 'ended'],
  paused: ['live', 'ended'],
  ended: ['paused'],
}

/** Change a pairing's state, once its effects were shown; and the consent of its shell. */
export function useState(pairing: Ref<Schemas['Pairing']>) {
  const client = useQueryClient()
  const path = computed(() => ({ id: pairing.value.id }))
  const shell = computed(() => pairing.value.shell.id)
  const foresee = useMutation({
    mutationFn: (state: State) =>
      answered(
        api.GET('/api/v1/pairings/{id}/consequences', {
          params: { path: path.value, query: { state } },
        }),
      ),
  })
  /** The state whose effects are shown. */
  const target = computed(() => (foresee.data.value ? foresee.variables.value : undefined))
  const change = useMutation({
    mutationFn: (state: State) =>
      answered(
        api.PATCH('/api/v1/pairings/{id}', { params: { path: path.value }, body: { state } }),
      ),
    onSuccess: () => {
      foresee.reset()
      client.invalidateQueries({ queryKey: ['pairing', pairing.value.id] })
      client.invalidateQueries({ queryKey: ['shells'] })
    },
  })
  const { data: consent } = useQuery(computed(() => consentQuery(shell.value)))
  const again = () => {
    client.invalidateQueries({ queryKey: ['shell', shell.value] })
    client.invalidateQueries({ queryKey: ['pairing', pairing.value.id] })
  }
  const of = () => ({ params: { path: { id: shell.value } } })
  const agree = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/shells/{id}/consent', of())),
    onSuccess: again,
  })
  const withdraw = useMutation({
    mutationFn: () => answered(api.DELETE('/api/v1/shells/{id}/consent', of())),
    onSuccess: again,
  })
  const error = computed(
    () => foresee.error.value ?? change.error.value ?? agree.error.value ?? withdraw.error.value,
  )
  return { target, foresee, change, consent, agree, withdraw, error }
}
