import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered, api } from '@/api/client'
import { cellQuery } from './queries'

/** What happened to one cell, and the notes that people leave on it. */
export function useCellStory(of: { pairing: string; placement: string; person: string }) {
  const client = useQueryClient()
  const { data: story, ...reading } = useQuery(
    computed(() => cellQuery(of.pairing, of.placement, of.person)),
  )
  const text = ref('')
  const renew = () => client.invalidateQueries(cellQuery(of.pairing, of.placement, of.person))
  const leave = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/notes', {
          params: { path: { pairing_pk: of.pairing } },
          body: { placement: of.placement, learner: of.person, text: text.value },
        }),
      ),
    onSuccess: () => {
      text.value = ''
      renew()
    },
  })
  const away = useMutation({
    mutationFn: (id: number) =>
      answered(
        api.DELETE('/api/v1/pairings/{pairing_pk}/notes/{id}', {
          params: { path: { pairing_pk: of.pairing, id } },
        }),
      ),
    onSuccess: renew,
  })
  return { story, reading, text, leave, away }
}
