import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { isIn, read } from './files'
import { HELP, moreAbout } from './pages'
import { typeset } from './typeset'

const OURS = ['words'] // for who writes the pages, not for who reads them

async function made(language: string, name: string) {
  const page = typeset(await read(language, name))
  const shown = document.createElement('div')
  shown.innerHTML = page.html
  return { ...page, shown }
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
