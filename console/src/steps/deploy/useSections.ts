import { useQuery } from '@tanstack/vue-query'
import { type Ref, watch } from 'vue'
import { shellsQuery } from '@/steps/pair/queries'
import type { Section } from './sheet'

/** Offer the other shells that items may be placed in as well, by name, none of them chosen. */
export function useSections(pairing: Ref<string>, sections: Ref<Section[]>) {
  const { data: shells } = useQuery(shellsQuery())
  watch(
    shells,
    (now) => {
      sections.value = (now?.results ?? [])
        .filter((each) => each.pairing !== pairing.value && ['ready', 'live'].includes(each.state))
        .sort((a, b) => a.label.localeCompare(b.label))
        .flatMap(({ pairing: other, label }) =>
          other ? [{ pairing: other, label, on: false, shift: 0, folder: '' }] : [],
        )
    },
    { immediate: true },
  )
}
