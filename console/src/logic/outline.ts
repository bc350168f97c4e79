import type { Schemas } from '@/api/client'

/** Where in a shell chosen items go. */
export interface Destination {
  into: 'folder' | 'unit' | 'heading' | 'page'
  folder: string
  /** The entry after which they go, or `start`; empty: where their order puts them. */
  after: string
  /** In a page: words of the paragraph after which they go; empty: its end. */
  after_text?: string
}

/** A node of the outline as it will be: what is there, and what the plan will make or change. */
export interface OutlineNode {
  key: string
  label: string
  kind: string
  hidden: boolean
  /** What the plan does with it; nothing where it only is there. */
  coming?: 'folder' | 'make' | 'change'
  /** The item of a link that is to come. */
  item?: string
  /** The shell's own id, where it is there. */
  id?: string
  folder: string
  children?: OutlineNode[]
}

const OPENS = ['folder', 'heading', 'page']

function own(node: Schemas['Node']): OutlineNode {
  return {
    key: node.id,
    id: node.id,
    label: node.title,
    kind: node.kind,
    hidden: !node.visible,
    folder: node.folder,
    ...(node.kind === 'folder' ? { children: [] } : {}),
  }
}

/** Put what is to come after an entry, first, or last. */
function put(into: OutlineNode[], coming: OutlineNode[], after: string): void {
  const found = into.findIndex((node) => node.id === after)
  const at = after === 'start' ? 0 : found >= 0 ? found + 1 : into.length
  into.splice(at, 0, ...coming)
}

/**
 * Return the shell's outline as a tree, with what the plan will do in its place: new folders, new
 * links, and links that change.
 */
export function outlineOf(
  nodes: readonly Schemas['Node'][],
  plan: Pick<Schemas['Plan'], 'rows' | 'folders'> | undefined,
  place: Destination,
): OutlineNode[] {
  const top: OutlineNode[] = []
  const byId = new Map<string, OutlineNode>()
  for (const node of nodes) {
    const made = own(node)
    byId.set(node.id, made)
    ;(byId.get(node.folder)?.children ?? top).push(made)
  }
  const named = new Map<string, OutlineNode>()
  for (const folder of plan?.folders ?? []) {
    const made: OutlineNode = {
      key: `folder:${folder.title}`,
      label: folder.title,
      kind: 'folder',
      hidden: false,
      coming: 'folder',
      folder: '',
      children: [],
    }
    named.set(folder.title, made)
    const around = place.into === 'unit' ? byId.get(place.folder)?.children : undefined
    ;(around ?? top).push(made)
  }
  const coming = new Map<OutlineNode[], OutlineNode[]>()
  for (const row of plan?.rows ?? []) {
    const folder = byId.get(row.folder) ?? named.get(row.folder_title)
    // A page or heading opens to show what comes into it.
    const into = folder ? (folder.children ??= []) : top
    if (row.action === 'change') {
      const there = into.find((node) => node.kind === 'lti_link' && node.label === row.target.title)
      if (there) there.coming = 'change'
    }
    if (row.action !== 'make') continue
    const link: OutlineNode = {
      key: `item:${row.item}`,
      label: row.target.title,
      kind: 'lti_link',
      hidden: !row.target.visible,
      coming: 'make',
      item: row.item,
      folder: folder?.id ?? '',
    }
    coming.set(into, [...(coming.get(into) ?? []), link])
  }
  for (const [into, links] of coming) put(into, links, place.after)
  return top
}

/** Return where items go that are dropped on a node: into it, or after it where it holds nothing. */
export function placeAt(node: OutlineNode): Destination | undefined {
  if (node.coming === 'make' || (node.coming === 'folder' && !node.id)) return undefined
  if (OPENS.includes(node.kind))
    return { into: node.kind as 'folder' | 'heading' | 'page', folder: node.id!, after: '' }
  return { into: 'folder', folder: node.folder, after: node.id! }
}
