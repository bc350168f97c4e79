import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { type Catalogue, LANGUAGES, languageOf } from '.'

const read = (language: string) =>
  JSON.parse(readFileSync(`src/words/${language}.json`, 'utf8')) as Catalogue

/** Every message of a catalogue by its whole key. */
function flat(tree: Catalogue, before = ''): Map<string, string> {
  const found = new Map<string, string>()
  for (const [key, value] of Object.entries(tree)) {
    if (typeof value === 'string') found.set(before + key, value)
    else for (const [inner, text] of flat(value, `${before}${key}.`)) found.set(inner, text)
  }
  return found
}
const places = (text: string) => [...new Set(text.match(/\{\w+\}/g) ?? [])].sort()

describe('the catalogues', () => {
  const english = flat(read('en'))
  for (const language of Object.keys(LANGUAGES).filter((each) => each !== 'en')) {
    const other = flat(read(language))
    it(`${language} has every key of English and no other`, () => {
      expect([...other.keys()].sort()).toEqual([...english.keys()].sort())
    })
    it(`${language} names what English names, in as many forms`, () => {
      for (const [key, text] of english) {
        const theirs = other.get(key) ?? ''
        expect(places(theirs), key).toEqual(places(text))
        expect(theirs.split(' | ').length, key).toBe(text.split(' | ').length)
      }
    })
  }
  it('keep to the style guide (docs/words.md)', () => {
    const odd =
      /\b(anew|by itself|so many|stands? (there|here|as)|kept right|is no (graded|proposal|score|problem|such))\b/i
    const found = [...english].filter(([, text]) => odd.test(text))
    expect(found).toEqual([])
  })
})

/** English words in a script beside words of the catalogue: in one list of them, or as the other choice. */
const BARE = [
  /\? '([A-Za-z][a-z ]+)'\s*: t\(/g,
  /\? t\((?:[^()]|\([^()]*\))*\)\s*: '([A-Za-z][a-z ]+)'/g,
]
const LIST = /\{\n(?:\s+\w+: [^\n]+,\n)+\s*\}/g

describe('scripts and templates', () => {
  const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter(
    (name) => /\.(vue|ts)$/.test(name) && !/\.test\.ts$|^api|^words/.test(name),
  )
  it('say nothing in English that is not in the catalogue', () => {
    const found = files.flatMap((name) => {
      const text = readFileSync(`src/${name}`, 'utf8')
      const lists = [...text.matchAll(LIST)].map(([list]) => list)
      return [
        ...lists
          .filter((list) => /: t\(/.test(list))
          .flatMap((list) => [
            ...list.matchAll(/^\s+(?!key|name|code|stack|side)\w+: ('[A-Za-z][a-z ]+'),$/gm),
          ]),
        ...(/\['\w+', t\(/.test(text) ? [...text.matchAll(/\['\w+', ('[A-Za-z][a-z ]+')\]/g)] : []),
        ...BARE.flatMap((each) => [...text.matchAll(each)]),
      ].map(([, word]) => `${name}: ${word}`)
    })
    expect(found).toEqual([])
  })
})

describe('the language', () => {
  it('is the first wished one that there is', () => {
    expect(languageOf(['fr-CA', 'es-MX', 'en'])).toBe('es')
    expect(languageOf([undefined, '', 'EN_us'])).toBe('en')
  })
  it('is English where none of the wished ones is there', () => {
    expect(languageOf(['fr', 'constructor'])).toBe('en')
  })
})
