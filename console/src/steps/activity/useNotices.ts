import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { onUnmounted } from 'vue'
import { answered, api } from '@/api/client'

/** One's newest notices. What was seen is read once one leaves, so that new ones show until then. */
export function useNotices(most: number) {
  const client = useQueryClient()
  const notices = useQuery({
    queryKey: ['notices', most],
    queryFn: () => answered(api.GET('/api/v1/notices', { params: { query: { limit: most } } })),
  })
  const read = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/notices/read')),
    onSuccess: () => client.invalidateQueries({ queryKey: ['me'] }),
  })
  onUnmounted(() => notices.data.value?.results.some((each) => !each.read_at) && read.mutate())
  return notices
}
