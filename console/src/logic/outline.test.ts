import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { type Destination, type OutlineNode, outlineOf, placeAt } from './outline'

const node = (id: string, kind: string, folder = '', title = id) =>
  ({ id, kind, folder, title, visible: true, depth: 0 }) as Schemas['Node']
const nodes = [
  node('f', 'folder', '', 'Week 1'),
  node('a', 'lti_link', 'f', 'Quiz'),
  node('b', 'text', 'f', 'Read this'),
  node('p', 'page', '', 'Notes'),
]
const row = (item: string, action: string, title: string, folder: string, folder_title = '') =>
  ({ item, action, folder, folder_title, target: { title, visible: true } }) as Schemas['Row']
const here: Destination = { into: 'folder', folder: 'f', after: '' }
const keys = (tree: readonly OutlineNode[]): unknown[] =>
  tree.map((each) => (each.children ? [each.key, keys(each.children)] : each.key))

describe('the outline with what is to come', () => {
  it('is the shell as it is where nothing is planned', () => {
    expect(keys(outlineOf(nodes, undefined, here))).toEqual([['f', ['a', 'b']], 'p'])
  })
  it('shows new links last in their folder, first, or after an entry', () => {
    const plan = { folders: [], rows: [row('1', 'make', 'New', 'f')] }
    const at = (after: string) => keys(outlineOf(nodes, plan, { ...here, after }))[0]
    expect(at('')).toEqual(['f', ['a', 'b', 'item:1']])
    expect(at('start')).toEqual(['f', ['item:1', 'a', 'b']])
    expect(at('a')).toEqual(['f', ['a', 'item:1', 'b']])
  })
  it('shows new folders with what goes into them, and marks what changes', () => {
    const plan = {
      folders: [{ title: 'Week 2' } as Schemas['NewFolder']],
      rows: [row('1', 'make', 'New', '', 'Week 2'), row('2', 'change', 'Quiz', 'f')],
    }
    const tree = outlineOf(nodes, plan, { into: 'unit', folder: '', after: '' })
    expect(keys(tree)).toEqual([['f', ['a', 'b']], 'p', ['folder:Week 2', ['item:1']]])
    expect(tree[0]!.children![0]!.coming).toBe('change')
  })
  it('takes what is dropped into a folder or page, and after any other entry', () => {
    const tree = outlineOf(nodes, undefined, here)
    expect(placeAt(tree[1]!)).toEqual({ into: 'page', folder: 'p', after: '' })
    expect(placeAt(tree[0]!.children![1]!)).toEqual({ into: 'folder', folder: 'f', after: 'b' })
  })
})
