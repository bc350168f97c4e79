import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { isIn, read } from './files'
import { HELP, moreAbout, titleKey } from './pages'
import { typeset } from './typeset'

type Words = { help_pages: { title: Record<string, string> } }
const catalogue = (language: string) =>
  JSON.parse(readFileSync(`src/words/${language}.json`, 'utf8')) as Words
// What words in italics on these pages are: names of what one can press or read in the console.
const NAMING = ['first-day', 'content', 'deploying', 'relaying', 'reconciling', 'connecting']
const OURS = ['words'] // for who writes the pages, not for who reads them

async function made(language: string, name: string) {
  const page = typeset(await read(language, name))
  const shown = document.createElement('div')
  shown.innerHTML = page.html
  return { ...page, shown }
}
const said = (words: object): string[] =>
  Object.values(words).flatMap((each) =>
    typeof each === 'string' ? each.split(' | ') : said(each),
  )
/** Whether a label is one of the console's; in italics it has numbers and names where that has {n}. */
const labels = (language: string) => {
  const patterns = said(catalogue(language)).map((words) => {
    const fixed = words.split(/\{\w+\}/).map((part) => part.replaceAll(/[^\p{L}\p{N}\s]/gu, '\\$&'))
    return /\p{L}/u.test(fixed.join('')) ? new RegExp(`^${fixed.join('.+')}$`) : /^$/
  })
  return (label: string) => patterns.some((pattern) => pattern.test(label))
}
const all = (shown: Element, tag: string, what: string) =>
  [...shown.querySelectorAll(tag)].map((each) => each.getAttribute(what) ?? '')

describe('help pages', () => {
  it('are all pages of docs/ but our own', () => {
    const files = readdirSync('../docs').filter((name) => name.endsWith('.md'))
    const names = files.map((name) => name.replace('.md', ''))
    expect([...HELP, ...OURS].sort()).toEqual(names.sort())
  })

  for (const [language, names] of [
    ['en', HELP],
    ['es', HELP.filter((name) => isIn('es', name))],
  ] as const)
    it.each(names)(`lead only to what is served: ${language} %s`, async (name) => {
      const { shown } = await made(language, name)
      expect(shown.querySelectorAll('h1')).toHaveLength(1)
      for (const source of all(shown, 'img', 'src')) expect(source).toMatch(/\.png$/)
      for (const href of all(shown, 'a', 'href')) {
        const [, to = name, part = ''] = /^(?:\/help\/([a-z-]+))?#?(.*)$/.exec(href) ?? []
        expect(HELP, href).toContain(to)
        if (part) expect(all((await made(language, to)).shown, '[id]', 'id'), href).toContain(part)
      }
    })

  it.each([...HELP])('are called in the list as they call themselves: %s', async (name) => {
    const title = titleKey(name).replace(/.*\./, '')
    for (const language of ['en', 'es'].filter((each) => isIn(each, name))) {
      const { shown } = await made(language, name)
      const called = catalogue(language).help_pages.title[title]
      expect(shown.querySelector('h1')?.textContent).toBe(called)
    }
  })

  for (const language of ['en', 'es'])
    it(`name what can be pressed and read as the console does: ${language}`, async () => {
      const known = labels(language)
      for (const name of NAMING.filter((each) => isIn(language, each))) {
        const { shown } = await made(language, name)
        const odd = [...shown.querySelectorAll('em')]
          .map((each) => each.textContent.replaceAll(/\s+/g, ' '))
          .filter((label) => /^\p{Lu}/u.test(label) && !known(label))
        expect(odd, name).toEqual([])
      }
    })

  it('turn what the console does not serve into words', async () => {
    const { shown } = await made('en', 'operating')
    const text = readFileSync('../docs/operating.md', 'utf8')
    expect(text).toContain('](operating/vennpair-web.service)')
    expect(shown.innerHTML).not.toContain('vennpair-web.service)')
    expect(all(shown, 'a', 'href').filter((href) => !/^\/help\//.test(href))).toEqual([])
  })

  it('name their parts, and where each is', () => {
    const { html, parts } = typeset('# A\n\n## Año uno: ¿qué?\n\n## B & `c`\n\n## B & `c`\n')
    expect(parts.map((part) => part.id)).toEqual(['año-uno-qué', 'b-c', 'b-c-1'])
    for (const { id } of parts) expect(html).toContain(`id="${id}"`)
  })

  it('take no HTML from a page', () => {
    const { html } = typeset('# A\n\n<img src=x onerror=alert(1)> [b](javascript:alert(1))\n')
    expect(html).not.toMatch(/<img|href/)
  })

  it('tell more about every page of the console', () => {
    expect(moreAbout('deploy')).toBe('deploying')
    expect(moreAbout('today')).toBe('first-day')
  })
})
