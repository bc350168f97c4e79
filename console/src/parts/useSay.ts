import { useMessage } from 'naive-ui/es/message'
import { ref } from 'vue'

/** What was said last, for the frame's live region: the library's message is silent there. */
export const lastSaid = ref('')

/** Say in passing that something is done: seen for three seconds, and read out. */
export function useSay() {
  const message = useMessage()
  return (words: string) => {
    message.success(words, { duration: 3000 })
    lastSaid.value = ''
    requestAnimationFrame(() => (lastSaid.value = words))
  }
}
