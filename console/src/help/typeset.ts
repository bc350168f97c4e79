import MarkdownIt from 'markdown-it'
import type { Token } from 'markdown-it'
import anchor from 'markdown-it-anchor'
import { PICTURES } from './files'
import { isHelp } from './pages'

/** A part of a help page: what its heading says, and where it is on the page. */
export interface Part {
  title: string
  id: string
}

export interface Typeset {
  html: string
  /** The parts below the page's own heading, in their order. */
  parts: Part[]
}

/** Make a page of docs/ into HTML: its links lead to pages of the console, its pictures are served. */
export function typeset(text: string): Typeset {
  const parts: Part[] = []
  const markdown = new MarkdownIt({ html: false, linkify: false }).use(anchor, {
    level: [2, 3],
    tabIndex: false,
    slugify: slug,
    callback: (token, { slug: id, title }) => {
      if (token.tag === 'h2') parts.push({ id, title })
    },
  })
  markdown.core.ruler.push('served', ({ tokens }) => {
    for (const token of tokens) serve(token.children ?? [])
  })
  // Marks of ours in a page's source are for whoever writes it.
  const html = markdown.render(text.replaceAll(/<!--.*?-->\n?/gs, ''))
  return { html: reachable(html), parts }
}

/** What scrolls sideways is reached by keys too. */
const reachable = (html: string) =>
  html.replaceAll('<pre>', '<pre tabindex="0">').replaceAll('<table>', '<table tabindex="0">')

const slug = (title: string) =>
  title
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
    .replaceAll(/^-|-$/g, '')

/** Let links and pictures lead to what the console serves; what it does not serve is words only. */
function serve(tokens: Token[]) {
  let open: Token | undefined
  for (const token of tokens) {
    if (token.type === 'image') {
      token.attrSet('src', PICTURES[nameOf(token.attrGet('src'))] ?? '')
      token.attrSet('loading', 'lazy')
    } else if (token.type === 'link_open') {
      const target = targetOf(token.attrGet('href') ?? '')
      open = target ? undefined : token
      token.tag = target ? 'a' : 'span'
      token.attrs = target ? [['href', target]] : null
    } else if (token.type === 'link_close' && open) {
      token.tag = 'span'
      open = undefined
    }
  }
}

const nameOf = (path: string | null) => (path ?? '').replace(/^.*\/|\.\w+$/g, '')

/** Return the console's address of what a link in docs/ leads to; empty where it serves none. */
function targetOf(href: string): string {
  if (/^(https?:|#)/.test(href)) return href
  const [, name = '', part = ''] = /^(?:\.\.\/)?([a-z-]+)\.md(#.*)?$/.exec(href) ?? []
  return isHelp(name) ? `/help/${name}${part}` : ''
}
