import { useQuery } from '@tanstack/vue-query'
import { refDebounced } from '@vueuse/core'
import { computed, type Ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { HELP, titleKey } from '@/help/pages'
import { holds } from '@/logic/search'
import { searchQuery } from '@/steps/today/queries'
import { t } from '@/words'
import { scheme, schemeChoice } from './preferences'

export interface Command {
  kind: 'page' | 'action' | 'shell' | 'item' | 'learner'
  label: string
  detail: string
  run: () => void
}

const PAGES = ['today', 'shells', 'operations', 'agreement', 'files', 'accounts', 'notices']
const STEPS = ['pair', 'content', 'deploy', 'placed', 'changes', 'relay', 'reconcile', 'activity']
const WAIT = 150 // milliseconds after the last letter before the service is asked

/** What can be gone to or done that fits the words: pages and actions here, the rest asked for. */
export function useCommands(words: Ref<string>, close: () => void) {
  const route = useRoute()
  const router = useRouter()
  const settled = refDebounced(words, WAIT)
  const { data: found, isFetching } = useQuery(computed(() => searchQuery(settled.value)))
  const go = (to: string | { name: string; params?: Record<string, string> }) => () => {
    close()
    void router.push(to)
  }
  const own = computed<Command[]>(() => {
    const pairing = String(route.params.pairing ?? '')
    return [
      ...(pairing ? STEPS : []).map((name) => ({
        kind: 'page' as const,
        label: t(`crumb.${name}`),
        detail: t('search.this_shell'),
        run: go({ name, params: { pairing } }),
      })),
      ...PAGES.map((name) => ({
        kind: 'page' as const,
        label: t(`frame.${name}`),
        detail: '',
        run: go({ name }),
      })),
      { kind: 'action', label: t('search.act.set_up'), detail: '', run: go('/set-up') },
      { kind: 'action', label: t('search.act.token'), detail: '', run: go('/access') },
      {
        kind: 'action',
        label: scheme.value === 'dark' ? t('search.act.light') : t('search.act.dark'),
        detail: '',
        run: () => {
          schemeChoice.value = scheme.value === 'dark' ? 'light' : 'dark'
          close()
        },
      },
    ]
  })
  const help = computed<Command[]>(() =>
    HELP.map((page) => ({
      kind: 'page' as const,
      label: t(titleKey(page)),
      detail: t('crumb.help'),
      run: go({ name: 'help', params: { page } }),
    })),
  )
  const commands = computed<Command[]>(() => {
    const wanted = words.value.trim()
    const fitting = own.value.filter((each) => !wanted || holds(each.label, wanted))
    const told = help.value.filter(
      (each) => wanted && holds(`${each.detail} ${each.label}`, wanted),
    )
    const asked = (wanted.length > 1 ? (found.value ?? []) : []).map((each) => ({
      kind: each.kind,
      label: each.title,
      detail: each.detail,
      run: go(each.link),
    }))
    return [...asked, ...fitting, ...told]
  })
  return { commands, isFetching }
}
