import { usePreferredDark, useStorage } from '@vueuse/core'
import { computed, watch } from 'vue'
import { type Language, LANGUAGE_KEY } from '@/words'

/** What a person chose for this browser; where it keeps nothing, the choice holds for the page. */
export type Scheme = 'light' | 'dark'
export type SchemeChoice = Scheme | 'device'
export type Density = 'roomy' | 'compact'

export const schemeChoice = useStorage<SchemeChoice>('vennpair.scheme', 'device')
export const density = useStorage<Density>('vennpair.density', 'roomy')
export const chosenLanguage = useStorage<Language | ''>(LANGUAGE_KEY, '')

const deviceIsDark = usePreferredDark()
export const scheme = computed<Scheme>(() =>
  schemeChoice.value === 'device'
    ? deviceIsDark.value
      ? 'dark'
      : 'light'
    : schemeChoice.value === 'dark'
      ? 'dark'
      : 'light',
)

/** Dress the page as chosen, now and whenever the choice changes. */
export function follow(dress: () => void): void {
  watch([scheme, density], dress, { immediate: true })
}
