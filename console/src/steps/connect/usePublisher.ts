import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'

/** One publisher: checking its connection, and changing its values. */
export function usePublisher(id: () => string) {
  const client = useQueryClient()
  const path = computed(() => ({ id: id() }))
  const open = ref<'' | 'change' | 'card'>('')
  const check = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/connections/publishers/{id}/check', { params: { path: path.value } }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['publishers'] }),
  })
  const change = useMutation({
    mutationFn: (body: Schemas['PatchedChangePublisherRequest']) =>
      answered(
        api.PATCH('/api/v1/connections/publishers/{id}', { params: { path: path.value }, body }),
      ),
    onSuccess: () => {
      open.value = ''
      client.invalidateQueries({ queryKey: ['publishers'] })
    },
  })
  return { open, check, change }
}
