import { useQuery } from '@tanstack/vue-query'
import { computed, nextTick, type Ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { language } from '@/words'
import { isIn, read } from './files'
import { isHelp } from './pages'

/** A help page as it is read: its words, and how its links are followed within the console. */
export function useHelpPage(page: Ref<string>) {
  const route = useRoute()
  const router = useRouter()
  const spoken = computed(() => (isIn(language(), page.value) ? language() : 'en'))
  const reading = useQuery({
    queryKey: computed(() => ['help', spoken.value, page.value]),
    enabled: computed(() => isHelp(page.value)),
    staleTime: Infinity,
    queryFn: async () => {
      const [{ typeset }, text] = await Promise.all([
        import('./typeset'),
        read(spoken.value, page.value),
      ])
      return typeset(text)
    },
  })

  /** A link from one help page to the next stays in the console. */
  function follow(event: MouseEvent) {
    if (event.ctrlKey || event.metaKey || event.shiftKey) return
    const link = (event.target as HTMLElement).closest('a')?.getAttribute('href') ?? ''
    if (!/^(\/help\/|#)/.test(link)) return
    event.preventDefault()
    void router.push(link)
  }

  // The part that an address names is not there before the page is.
  watch(
    () => [route.hash, reading.data.value] as const,
    async ([hash]) => {
      await nextTick()
      if (hash) document.getElementById(hash.slice(1))?.scrollIntoView()
    },
    { immediate: true },
  )
  return { reading, spoken, follow }
}
