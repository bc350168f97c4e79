import type { RouteLocationNormalizedLoaded, RouteLocationRaw } from 'vue-router'
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
  const trail: Crumb[] = [{ label: t('frame.shells'), to: { name: 'shells' } }]
  const params = { pairing: String(route.params.pairing ?? '') }
  if (params.pairing) {
    trail.push({ label: shell ?? '…', to: { name: 'pair', params } })
    const step = String(route.meta.step ?? '')
    if (step && step !== name) trail.push({ label: t(`crumb.${step}`), to: { name: step, params } })
  }
  const own = te(`crumb.${name}`) ? t(`crumb.${name}`) : t(`frame.${name}`)
  return [...trail, { label: own }]
}
