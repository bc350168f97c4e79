import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { onBeforeUnmount, ref } from 'vue'
import { answered, api } from '@/api/client'

const LOOK_EVERY = 2000 // milliseconds between looks while the other window is open

/** Linking one's account at a publisher in another window, and saying that it is one's own. */
export function useLinking() {
  const client = useQueryClient()
  const opened = ref(false)
  let timer: ReturnType<typeof setInterval> | undefined
  const again = () => client.invalidateQueries({ queryKey: ['accounts'] })
  const link = useMutation({
    mutationFn: ({ publisher }: { publisher: string; window: Window | null }) =>
      answered(api.POST('/api/v1/accounts', { body: { publisher } })),
    onSuccess: (begun, { window: other }) => {
      if (other) other.location.assign(begun.open)
      else window.location.assign(begun.open) // a browser that opens no windows
      opened.value = true
      timer ??= setInterval(again, LOOK_EVERY)
    },
    onError: (_, { window: other }) => other?.close(), // what went wrong is said here, not there
  })
  const confirm = useMutation({
    mutationFn: (id: string) =>
      answered(api.POST('/api/v1/accounts/{id}/confirm', { params: { path: { id } } })),
    onSuccess: again,
  })
  // Opened in the click itself: a window that opens later is taken for an unwanted one.
  const open = (publisher: string) => link.mutate({ publisher, window: window.open('', '_blank') })
  onBeforeUnmount(() => clearInterval(timer))
  return { opened, open, link, confirm }
}
