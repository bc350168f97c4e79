import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { peopleQuery } from './queries'

export type Role = NonNullable<Schemas['PatchedChangePersonRequest']['role']>

/** The people of the institution, what each may do, and who is blocked. */
export function usePeople() {
  const client = useQueryClient()
  const { data: people, error } = useQuery(peopleQuery())
  const change = useMutation({
    mutationFn: ({ id, role }: { id: number; role: Role }) =>
      answered(api.PATCH('/api/v1/people/{id}', { params: { path: { id } }, body: { role } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['people'] }),
  })
  const block = useMutation({
    mutationFn: ({ id, blocked }: { id: number; blocked: boolean }) =>
      answered(api.PATCH('/api/v1/people/{id}', { params: { path: { id } }, body: { blocked } })),
    onSettled: () => client.invalidateQueries({ queryKey: ['people'] }),
  })
  const trouble = computed(() => error.value ?? change.error.value ?? block.error.value)
  return { people, error: trouble, change, block }
}
