import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { answered, api, type Schemas } from '@/api/client'
import { collegeQuery } from './queries'

/** The college's own sign-in: what is set, setting it, and removing it. */
export function useCollege() {
  const client = useQueryClient()
  const { data: college, error } = useQuery(collegeQuery())
  const again = () => client.invalidateQueries({ queryKey: ['college-sign-in'] })
  const save = useMutation({
    mutationFn: (body: Schemas['SetCollegeSignInRequest']) =>
      answered(api.PUT('/api/v1/connections/college-sign-in', { body })),
    onSuccess: again,
  })
  const remove = useMutation({
    mutationFn: () => answered(api.DELETE('/api/v1/connections/college-sign-in')),
    onSuccess: again,
  })
  return { college, error, save, remove }
}
