/** The time line of one cell: what happened, spread so that close moments can still be told apart. */

export interface Moment {
  at: string
  share: number | null
}

/** Places from 0 to 1: half by their order, half by their time, so that a year's pause does not press all else into a corner. */
export function placesOf(moments: readonly Moment[]): number[] {
  const times = moments.map((each) => Date.parse(each.at))
  const first = Math.min(...times)
  const whole = Math.max(...times) - first
  return times.map((time, order) => {
    const byOrder = moments.length > 1 ? order / (moments.length - 1) : 0.5
    return whole > 0 ? (byOrder + (time - first) / whole) / 2 : byOrder
  })
}
