import { language } from '@/words'

/** Show a moment in the course's own time zone, which its page names once; what is no moment stays as it is. */
export function inZone(iso: string | null | undefined, zone: string): string {
  if (!iso) return ''
  const moment = new Date(iso)
  if (Number.isNaN(moment.getTime())) return iso
  return new Intl.DateTimeFormat(formOf(language()), {
    timeZone: zone || 'UTC',
    day: 'numeric',
    month: 'short',
    hour: 'numeric',
    minute: '2-digit',
  }).format(moment)
}

/** Name a time zone as people do, as "Central Time". */
export function zoneName(zone: string): string {
  if (!zone || zone === 'UTC') return 'UTC'
  const form = { timeZone: zone, timeZoneName: 'longGeneric' } as const
  const parts = new Intl.DateTimeFormat(formOf(language()), form).formatToParts()
  return parts.find((each) => each.type === 'timeZoneName')?.value ?? zone
}

/** The zone of who reads, where a list is of shells in several zones. */
export const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone

/** Show a day, as "Nov 29"; `iso` is a date or begins with one. */
export function dayOf(iso: string): string {
  const moment = new Date(`${iso.slice(0, 10)}T12:00:00Z`)
  const form = { timeZone: 'UTC', day: 'numeric', month: 'short' } as const
  return new Intl.DateTimeFormat(formOf(language()), form).format(moment)
}

/** Show a day with its year, as "Nov 29, 2026". */
export function dateOf(iso: string | null | undefined, zone?: string): string {
  if (!iso) return ''
  const form = { timeZone: zone, day: 'numeric', month: 'short', year: 'numeric' } as const
  return new Intl.DateTimeFormat(formOf(language()), form).format(new Date(iso))
}

const UNITS: [Intl.RelativeTimeFormatUnit, number][] = [
  ['day', 86_400],
  ['hour', 3_600],
  ['minute', 60],
]
/** How long ago a moment was, as "3 hours ago". */
export function ago(iso: string, now = Date.now()): string {
  const seconds = (Date.parse(iso) - now) / 1000
  const words = new Intl.RelativeTimeFormat(language(), { numeric: 'auto' })
  for (const [unit, size] of UNITS)
    if (Math.abs(seconds) >= size) return words.format(Math.round(seconds / size), unit)
  return words.format(0, 'minute')
}

// American dates in English: that is whom the English catalogue is written for.
const formOf = (spoken: string) => (spoken === 'en' ? 'en-US' : spoken)
