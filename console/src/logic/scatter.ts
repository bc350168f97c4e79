/** Publisher's against gradebook's share of the points, as dots; equal ones are one larger dot. */

export interface Dot {
  x: number
  y: number
  kind: string
  count: number
  /** One cell that is there, for the link. */
  row: number
  column: number
}

type Share = readonly (number | null)[]

/** What a side without a score is drawn at, left of or below zero, so that missing scores are a line of their own. */
export const NONE = -0.08
export const MOST = 1.3

const place = (share: number | null | undefined) =>
  share === null || share === undefined ? NONE : Math.min(MOST, Math.max(NONE, share))

export function dotsOf(
  kinds: readonly (readonly (string | null)[])[],
  shares: readonly (readonly Share[])[],
): Dot[] {
  const found = new Map<string, Dot>()
  kinds.forEach((row, at) =>
    row.forEach((kind, column) => {
      if (kind === null) return
      const [left, right] = shares[at]?.[column] ?? []
      const x = place(left)
      const y = place(right)
      const key = `${x.toFixed(3)} ${y.toFixed(3)} ${kind}`
      const known = found.get(key)
      if (known) known.count += 1
      else found.set(key, { x, y, kind, count: 1, row: at, column })
    }),
  )
  // What agrees lies below, so that trouble is never covered by it.
  return [...found.values()].sort(
    (one, other) => Number(other.kind === 'agree') - Number(one.kind === 'agree'),
  )
}
