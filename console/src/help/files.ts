/** The files of docs/ that are help pages, each loaded when it is read, and their pictures. */
const english = import.meta.glob<string>('../../../docs/*.md', { query: '?raw', import: 'default' })
const spanish = import.meta.glob<string>('../../../docs/es/*.md', {
  query: '?raw',
  import: 'default',
})
const pictures = import.meta.glob<string>(
  [
    '../../../docs/screenshots/*.png',
    '!../../../docs/screenshots/*-dark.png',
    '!../../../docs/screenshots/terminal-*.png',
  ],
  { query: '?url', import: 'default', eager: true },
)
const nameOf = (path: string) => path.replace(/^.*\/|\.\w+$/g, '')
const byName = <T>(files: Record<string, T>) =>
  Object.fromEntries(Object.entries(files).map(([path, file]) => [nameOf(path), file]))

const FILES: Record<string, Record<string, () => Promise<string>>> = {
  en: byName(english),
  es: byName(spanish),
}

/** Where the browser finds each picture of docs/screenshots, by its name. */
export const PICTURES: Record<string, string> = byName(pictures)

/** Whether a page is there in a language. */
export const isIn = (language: string, name: string): boolean => name in (FILES[language] ?? {})

/** Return the text of a page, in this language where it is there, else in English. */
export const read = (language: string, name: string): Promise<string> =>
  FILES[isIn(language, name) ? language : 'en']![name]!()
