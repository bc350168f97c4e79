import type { NDateLocale, NLocale } from 'naive-ui/es/locales'
import { shallowRef, watchEffect } from 'vue'
import { type Language, language } from '@/words'

/** The library's own words in our languages; English is built into it. */
const LOADED: Partial<Record<Language, () => Promise<[NLocale, NDateLocale]>>> = {
  es: async () =>
    Promise.all([
      import('naive-ui/es/locales/common/esAR').then((module) => module.default as NLocale),
      import('naive-ui/es/locales/date/esAR').then((module) => module.default as NDateLocale),
    ]),
}

/** Let the library's parts (calendars, empty tables) speak as the console does. */
export function useLibraryWords() {
  const locale = shallowRef<NLocale | null>(null)
  const dateLocale = shallowRef<NDateLocale | null>(null)
  watchEffect(async () => {
    const [words, dates] = (await LOADED[language()]?.()) ?? [null, null]
    locale.value = words
    dateLocale.value = dates
  })
  return { locale, dateLocale }
}
