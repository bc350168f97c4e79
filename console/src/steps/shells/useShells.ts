import { useQuery } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { holds } from '@/logic/search'
import { shellsQuery } from '@/steps/pair/queries'
import { byName } from '@/logic/order'

export type Shell = Schemas['Shell']

/** What needs attention first; the shell one came from before all. */
export function inOrder(shells: readonly Shell[], here: unknown): Shell[] {
  return [...shells].sort(
    (a, b) =>
      Number(b.id === here) - Number(a.id === here) ||
      Number(Boolean(b.attention)) - Number(Boolean(a.attention)) ||
      byName(a.label, b.label),
  )
}

/** One's shells: searched by words that live in the address, and chosen for one deed in several. */
export function useShells() {
  const route = useRoute()
  const router = useRouter()
  const { data, ...reading } = useQuery(shellsQuery())
  const words = computed({
    get: () => String(route.query.q ?? ''),
    set: (q) => router.replace({ query: { ...route.query, q: q || undefined } }),
  })
  const all = computed(() => inOrder(data.value?.results ?? [], route.query.shell))
  const shells = computed(() =>
    all.value.filter((each) =>
      holds(`${each.label} ${each.title} ${each.course} ${each.platform}`, words.value),
    ),
  )
  const picking = ref(false)
  const picked = ref<string[]>([])
  const paired = computed(() => shells.value.filter((shell) => shell.pairing))
  const chosen = computed(() => paired.value.filter((shell) => picked.value.includes(shell.id)))
  const choose = (ids: string[], on: boolean) =>
    (picked.value = [...picked.value.filter((id) => !ids.includes(id)), ...(on ? ids : [])])
  const chooseAll = (on: boolean) =>
    choose(
      paired.value.map((shell) => shell.id),
      on,
    )
  const open = computed(() => all.value.filter((shell) => shell.attention).length)
  const unpaired = computed(
    () => all.value.filter((shell) => !shell.pairing && !shell.copied).length,
  )
  const here = computed(() => route.query.shell)
  return {
    ...{ all, shells, words, reading, here },
    ...{ picking, picked, paired, chosen, choose, chooseAll, open, unpaired },
  }
}
