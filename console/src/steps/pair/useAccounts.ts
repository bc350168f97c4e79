import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'
import { accountsQuery } from './queries'

/** Somebody's accounts at the publishers: linked there, confirmed here, undone. */
export function useAccounts() {
  const client = useQueryClient()
  const { data: accounts, ...reading } = useQuery(accountsQuery())
  const again = () => {
    client.invalidateQueries({ queryKey: ['accounts'] })
    client.invalidateQueries({ queryKey: ['courses'] })
  }
  const link = useMutation({
    mutationFn: (publisher: string) =>
      answered(api.POST('/api/v1/accounts', { body: { publisher } })),
    onSuccess: (begun) => window.location.assign(begun.open),
  })
  const look = useMutation({
    mutationFn: (id: string) =>
      answered(api.POST('/api/v1/accounts/{id}/look', { params: { path: { id } } })),
    onSuccess: again,
  })
  const confirm = useMutation({
    mutationFn: (id: string) =>
      answered(api.POST('/api/v1/accounts/{id}/confirm', { params: { path: { id } } })),
    onSuccess: again,
  })
  const undo = useMutation({
    mutationFn: (id: string) =>
      answered(api.DELETE('/api/v1/accounts/{id}', { params: { path: { id } } })),
    onSuccess: again,
  })
  return { accounts, reading, link, look, confirm, undo }
}
