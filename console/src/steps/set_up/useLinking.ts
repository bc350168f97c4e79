import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { onBeforeUnmount, ref } from 'vue'
import { answered, api } from '@/api/client'

const LOOK_EVERY_MS = 2_000 // while the other window is open
const LOOK_FOR_MS = 15 * 60_000 // longer, and it was left open or closed without a word

/** Linking one's account at a publisher in another window, and saying that it is one's own. */
export function useLinking() {
  const client = useQueryClient()
  const opened = ref(false)
  let timer: ReturnType<typeof setInterval> | undefined
  const stop = () => clearInterval(timer)
  const again = () => client.invalidateQueries({ queryKey: ['accounts'] })
  const link = useMutation({
    mutationFn: ({ publisher }: { publisher: string; window: Window | null }) =>
      answered(api.POST('/api/v1/accounts', { body: { publisher } })),
    onSuccess: (begun, { window: other }) => {
      if (other) other.location.assign(begun.open)
      else window.location.assign(begun.open) // a browser that opens no windows
      opened.value = true
      const until = Date.now() + LOOK_FOR_MS
      stop()
      timer = setInterval(() => (Date.now() < until ? again() : stop()), LOOK_EVERY_MS)
    },
    onError: (_, { window: other }) => other?.close(), // what went wrong is said here, not there
  })
  const confirm = useMutation({
    mutationFn: (id: string) =>
      answered(api.POST('/api/v1/accounts/{id}/confirm', { params: { path: { id } } })),
    onSuccess: () => {
      stop()
      return again()
    },
  })
  // Opened in the click itself: a window that opens later is taken for an unwanted one.
  const open = (publisher: string) => link.mutate({ publisher, window: window.open('', '_blank') })
  onBeforeUnmount(stop)
  return { opened, open, link, confirm }
}
