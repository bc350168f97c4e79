import { useQuery } from '@tanstack/vue-query'
import { type Ref, watch } from 'vue'
import { byName } from '@/logic/order'
import { shellsQuery } from '@/steps/pair/queries'
import type { Section } from './sheet'

/**
 * Offer the other shells that items may be placed in as well, by name, none of them chosen. The list is read
 * again now and then; what was said of a section that is still there stays.
 */
export function useSections(pairing: Ref<string>, sections: Ref<Section[]>) {
  const { data: shells } = useQuery(shellsQuery())
  watch(
    shells,
    (now) => {
      const said = new Map(sections.value.map((each) => [each.pairing, each]))
      sections.value = (now?.results ?? [])
        .filter((each) => each.pairing !== pairing.value && ['ready', 'live'].includes(each.state))
        .sort((a, b) => byName(a.label, b.label))
        .flatMap(({ pairing: other, label }) =>
          other
            ? [{ on: false, shift: 0, folder: '', ...said.get(other), pairing: other, label }]
            : [],
        )
    },
    { immediate: true },
  )
}
