import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, watch } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { useJob } from '@/parts/job'
import { shellToolQuery } from './queries'

type Changes = Schemas['PatchedChangeToolRequest']

/** Our place in a shell: looked at, and changed once what that would break was said. */
export function useTool(shell: Ref<string>, pairing: Ref<string>) {
  const client = useQueryClient()
  const { data: tool, ...reading } = useQuery(computed(() => shellToolQuery(shell.value)))
  const send = (body: Changes) =>
    answered(api.PATCH('/api/v1/shells/{id}/tool', { params: { path: { id: shell.value } }, body }))
  const change = useMutation({
    mutationFn: (changes: Changes) => send({ ...changes, etag: tool.value?.etag }),
    onSuccess: () => foresee.reset(),
  })
  const { job } = useJob(
    computed(() => change.data.value?.job?.id),
    pairing,
  )
  watch(
    () => job.value?.state,
    (state) => {
      if (state === 'done' || state === 'failed')
        client.invalidateQueries({ queryKey: ['shell', shell.value] })
    },
  )
  const foresee = useMutation({
    mutationFn: (changes: Changes) => send({ ...changes, dry_run: true }),
    onSuccess: (seen, changes) => void (seen.warning || change.mutate(changes)),
  })
  /** The changes of whose effects there is a warning. */
  const asked = computed(() => (foresee.data.value?.warning ? foresee.variables.value : undefined))
  return { tool, reading, asked, change, foresee, job }
}
