import { t, te } from '@/words'

/** Say a state of the service in words; one that is not in the catalogue is said as it is. */
export function stateName(group: string, state: string | null | undefined): string {
  if (!state) return ''
  const key = `${group}.${state}`
  return te(key, 'en') ? t(key) : state.replaceAll('_', ' ')
}
