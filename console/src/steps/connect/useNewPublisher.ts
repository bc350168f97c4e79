import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { onScopeDispose, ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'

/** Ways to connect a publisher: it registers itself, or somebody says its values. */
export function useNewPublisher() {
  const client = useQueryClient()
  const again = () => client.invalidateQueries({ queryKey: ['publishers'] })
  const opened = ref(false)
  const invite = useMutation({
    mutationFn: (body: Schemas['InvitePublisherRequest']) =>
      answered(api.POST('/api/v1/connections/publishers/invite', { body })),
    onSuccess: () => (opened.value = false),
  })
  const add = useMutation({
    mutationFn: (body: Schemas['NewPublisherRequest']) =>
      answered(api.POST('/api/v1/connections/publishers', { body })),
    onSuccess: again,
  })

  let listen: (event: MessageEvent) => void = () => {}
  const stop = () => window.removeEventListener('message', listen)
  function open(address: string) {
    // With an opener, so that the publisher's page can say that it is done and be closed.
    const page = window.open(address, '_blank')
    opened.value = page !== null
    stop()
    listen = (event: MessageEvent) => {
      if (!page || event.source !== page || event.data?.subject !== 'org.imsglobal.lti.close')
        return
      stop()
      again()
    }
    window.addEventListener('message', listen)
  }
  onScopeDispose(stop)
  return { again, invite, add, opened, open }
}
