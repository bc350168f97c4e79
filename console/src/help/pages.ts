/** The help pages by who reads them, in the order in which they are read. */
export const GROUPS = [
  {
    name: 'instructors',
    pages: [
      'first-day',
      'content',
      'deploying',
      'relaying',
      'reconciling',
      'term-sheets',
      'layouts',
    ],
  },
  { name: 'administrators', pages: ['connecting', 'accessibility', 'security'] },
  { name: 'operators', pages: ['operating', 'settings'] },
  { name: 'standards', pages: ['standards', 'shell-outline', 'course-provisioning'] },
] as const

export type HelpName = (typeof GROUPS)[number]['pages'][number]

export const HELP: readonly HelpName[] = GROUPS.flatMap((group) => group.pages)
export const isHelp = (name: string): name is HelpName => (HELP as readonly string[]).includes(name)

/** The key of a page's title in the catalogues. */
export const titleKey = (name: HelpName): string => `help_pages.title.${name.replaceAll('-', '_')}`

/** Which of them tells more about a page of the console; the others are told on the first day's. */
const MORE: Record<string, HelpName> = {
  content: 'content',
  deploy: 'deploying',
  placed: 'deploying',
  changes: 'deploying',
  rollouts: 'deploying',
  operations: 'deploying',
  relay: 'relaying',
  reconcile: 'reconciling',
  agreement: 'reconciling',
  files: 'layouts',
  connections: 'connecting',
  accounts: 'connecting',
  access: 'security',
}
export const moreAbout = (page: string): HelpName => MORE[page] ?? 'first-day'
