import { createI18n } from 'vue-i18n'

/** The languages that there are: a file of this folder for each. */
export const LANGUAGES = { en: 'English', es: 'Español' } as const
export type Language = keyof typeof LANGUAGES

/** Messages of one file, or a part of them. */
export interface Catalogue {
  [key: string]: string | Catalogue
}
const files: Record<Language, () => Promise<{ default: Catalogue }>> = {
  en: () => import('./en.json'),
  es: () => import('./es.json'),
}

/** The one place where words come from; a language is loaded when it is first spoken. */
export const i18n = createI18n({
  legacy: false,
  locale: 'en',
  fallbackLocale: 'en',
  messages: {},
  missingWarn: false,
  fallbackWarn: false,
})
export const { t, te, n } = i18n.global

/** Choose among the languages: the first of the wished ones that there is, else English. */
export function languageOf(wished: readonly (string | null | undefined)[]): Language {
  for (const each of wished) {
    const found = each?.toLowerCase().split(/[-_]/)[0]
    if (found && Object.hasOwn(LANGUAGES, found)) return found as Language
  }
  return 'en'
}

/** Speak a language from now on, on every page that is open here. */
export async function speak(language: Language): Promise<void> {
  const wanted: Language[] = language === 'en' ? ['en'] : ['en', language]
  for (const each of wanted)
    if (!i18n.global.availableLocales.includes(each))
      i18n.global.setLocaleMessage(each, (await files[each]()).default)
  i18n.global.locale.value = language
  document.documentElement.lang = language
}

/** The language that is spoken now, for dates, numbers and sorting. */
export const language = () => i18n.global.locale.value as Language

/** Under which name a browser keeps the language that somebody chose. */
export const LANGUAGE_KEY = 'vennpair.language'

/** Speak the language that was chosen in this browser, else the first of its own that there is. */
export function speakFirst(): Promise<void> {
  let chosen: string | null = null
  try {
    chosen = localStorage.getItem(LANGUAGE_KEY)
  } catch {
    // In another site's frame a browser may keep nothing for us; then its own languages count.
  }
  return speak(languageOf([chosen, ...navigator.languages]))
}
