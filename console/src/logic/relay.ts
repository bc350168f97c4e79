import { t } from '@/words'
/** Words and shapes of a relay, without any framework. */

export const STATES = [
  'waiting',
  'sending',
  'held',
  'refused',
  'clash',
  'withdrawn',
  'accepted',
  'empty',
] as const

const WORDS: Record<string, string> = {
  waiting: t('logic.relay.waiting'),
  sending: t('logic.relay.being_sent'),
  held: t('logic.relay.held'),
  refused: t('logic.relay.refused'),
  clash: t('logic.relay.kept_back'),
  withdrawn: t('logic.relay.taken_back'),
  accepted: t('logic.relay.in_the_gradebook'),
  empty: t('logic.relay.without_a_score'),
}

export const stateWords = (state: string | undefined): string => WORDS[state ?? ''] ?? state ?? ''

/** A length of time as people say it: 340 ms, 2.4 s, 3 min. */
export function spanOf(milliseconds: number | null | undefined): string {
  if (milliseconds === null || milliseconds === undefined) return '–'
  if (milliseconds < 1_000) return t('logic.relay.ms', { milliseconds: Math.round(milliseconds) })
  if (milliseconds < 90_000) return `${(milliseconds / 1_000).toFixed(1)} s`
  if (milliseconds < 90 * 60_000)
    return t('logic.relay.min', { _000: Math.round(milliseconds / 60_000) })
  return `${Math.round(milliseconds / 3_600_000)} h`
}

export interface Bucket {
  at: string
  received: number
  accepted: number
  lag_ms: number | null
}
export interface Bar {
  x: number
  width: number
  up: number
  down: number
  lag: number | null
  bucket: Bucket
}

/** Place buckets on a line of `width`: received upwards, accepted downwards, both on one scale up to `height`. */
export function bars(
  chart: { since: string; until: string; minutes: number; buckets: Bucket[] },
  width: number,
  height: number,
): Bar[] {
  const begin = Date.parse(chart.since)
  const whole = Date.parse(chart.until) - begin
  const most = Math.max(1, ...chart.buckets.flatMap((each) => [each.received, each.accepted]))
  const one = Math.max(3, (chart.minutes * 60_000 * width) / whole)
  return chart.buckets.map((bucket) => ({
    x: Math.min(width - one, Math.max(0, ((Date.parse(bucket.at) - begin) / whole) * width)),
    width: Math.max(2, one - 1),
    up: (bucket.received / most) * height,
    down: (bucket.accepted / most) * height,
    lag: bucket.lag_ms,
    bucket,
  }))
}
