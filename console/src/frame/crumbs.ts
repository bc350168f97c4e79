import type { RouteLocationNormalizedLoaded, RouteLocationRaw } from 'vue-router'
import { HELP, isHelp, titleKey } from '@/help/pages'
import { t, te } from '@/words'

export interface Crumb {
  label: string
  /** Where it leads; the last one is where one is. */
  to?: RouteLocationRaw
}

/** The way from the start page to this one: shells, the shell, the step, and what is below it. */
export function crumbsOf(
  route: Pick<RouteLocationNormalizedLoaded, 'name' | 'meta' | 'params'>,
  shell: string | undefined,
): Crumb[] {
  const name = String(route.meta.crumb ?? '')
  if (!name) return []
  if (name === 'help') return wayOfHelp(String(route.params.page ?? ''))
  const trail: Crumb[] = [{ label: t('frame.shells'), to: { name: 'shells' } }]
  const params = { pairing: String(route.params.pairing ?? '') }
  if (params.pairing) {
    trail.push({ label: shell ?? '…', to: { name: 'pair', params } })
    const step = String(route.meta.step ?? '')
    if (step && step !== name) trail.push({ label: t(`crumb.${step}`), to: { name: step, params } })
  }
  return [...trail, { label: called(name) }]
}

const wayOfHelp = (page: string): Crumb[] => [
  { label: t('crumb.help'), to: { name: 'help', params: { page: HELP[0] } } },
  ...(isHelp(page) ? [{ label: t(titleKey(page)) }] : []),
]

/** What the window is called: the page, where it is, the product (WCAG 2.2, 2.4.2). */
export function titleOf(
  route: Pick<RouteLocationNormalizedLoaded, 'name'>,
  crumbs: readonly Crumb[],
): string {
  const [, ...where] = crumbs
  const own = where.length
    ? where.map((crumb) => crumb.label).reverse()
    : [called(String(route.name ?? '').replaceAll('-', '_'))]
  return [...own, 'Venn Pair'].filter(Boolean).join(' · ')
}

const called = (name: string) =>
  te(`crumb.${name}`, 'en')
    ? t(`crumb.${name}`)
    : te(`frame.${name}`, 'en')
      ? t(`frame.${name}`)
      : ''
