/** The help pages of docs/, served with the console; each is loaded when it is read. */
const files = import.meta.glob<string>('../../../docs/*.md', { query: '?raw', import: 'default' })

export const DOCS: Record<string, () => Promise<string>> = Object.fromEntries(
  Object.entries(files).map(([path, load]) => [path.replace(/^.*\/|\.md$/g, ''), load]),
)

/** Which of them tells more about a page of the console. */
const MORE: Record<string, string> = {
  set_up: 'term-sheets',
  content: 'content',
  deploy: 'deploying',
  placed: 'deploying',
  changes: 'deploying',
  rollouts: 'deploying',
  relay: 'relaying',
  reconcile: 'reconciling',
  agreement: 'reconciling',
  files: 'layouts',
  connections: 'connecting',
  accounts: 'connecting',
  access: 'security',
}
export const docOf = (page: string): string | undefined => MORE[page]
