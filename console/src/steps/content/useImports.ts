import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import { importsQuery } from './queries'
import { sendPackage } from './upload'

const SHOWN = 5

/** A pairing's cartridges, and a new one: from the publisher, or sent from here. */
export function useImports(pairing: Ref<string>) {
  const client = useQueryClient()
  const imports = useQuery(computed(() => importsQuery(pairing.value)))
  const jobId = ref<string>()
  /** The import that was begun here. */
  const made = ref('')
  const { job, running } = useJob(jobId, pairing)
  /** How much of a file has been sent, from 0 to 1; -1 where none is on its way. */
  const sent = ref(-1)
  const start = useMutation({
    mutationFn: async (file: File | undefined) => {
      const params = { path: { pairing_pk: pairing.value } }
      const begin = (body: { source: 'publisher' } | { source: 'upload'; package: string }) =>
        answered(api.POST('/api/v1/pairings/{pairing_pk}/imports', { params, body }))
      if (!file) return begin({ source: 'publisher' })
      sent.value = 0
      const package_ = await sendPackage(pairing.value, file, (share) => (sent.value = share))
      return begin({ source: 'upload', package: package_.id })
    },
    onSuccess: (begun) => {
      jobId.value = begun.job.id
      made.value = begun.id
      client.invalidateQueries({ queryKey: ['pairing', pairing.value, 'imports'] })
    },
    onSettled: () => (sent.value = -1),
  })
  const rows = computed(() => imports.data.value?.results.slice(0, SHOWN) ?? [])
  return { imports, rows, made, job, running, sent, start }
}
