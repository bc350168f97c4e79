import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'

/** One platform: checking its connection, and changing its values. */
export function usePlatform(id: () => string) {
  const client = useQueryClient()
  const path = computed(() => ({ id: id() }))
  const editing = ref(false)
  const check = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/connections/platforms/{id}/check', { params: { path: path.value } }),
      ),
  })
  const change = useMutation({
    mutationFn: (body: Schemas['PatchedChangePlatformRequest']) =>
      answered(
        api.PATCH('/api/v1/connections/platforms/{id}', { params: { path: path.value }, body }),
      ),
    onSuccess: () => {
      editing.value = false
      client.invalidateQueries({ queryKey: ['platforms'] })
    },
  })
  return { editing, check, change }
}
