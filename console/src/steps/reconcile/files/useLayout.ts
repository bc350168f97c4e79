import { useMutation } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'
import { asForm } from './sending'

/** Looking at a wide table for how it is to be read. */
export function useLayout(found: (layout: string) => void) {
  return useMutation({
    mutationFn: (file: File) =>
      answered(api.POST('/api/v1/file-comparisons/layout', asForm({ file }))),
    onSuccess: (made) => found(made.layout),
  })
}
