import { useMessage } from 'naive-ui/es/message'
import { ref } from 'vue'
import { problemWords } from './problemWords'

/** What was said last, for the frame's live region: the library's message is silent there. */
export const lastSaid = ref('')

function readOut(words: string) {
  lastSaid.value = ''
  requestAnimationFrame(() => (lastSaid.value = words))
}

/** Say in passing that something is done: seen for three seconds, and read out. */
export function useSay() {
  const message = useMessage()
  return (words: string) => {
    message.success(words, { duration: 3000 })
    readOut(words)
  }
}

/** Say what could not be done from a place that has no room for a note: seen until it is closed. */
export function useSayProblem() {
  const message = useMessage()
  return (error: Error) => {
    const { what, remedy } = problemWords(error)
    message.error(`${what} ${remedy}`, { duration: 0, closable: true })
    readOut(`${what} ${remedy}`)
  }
}
