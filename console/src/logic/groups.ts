/** Group rows by a key, keeping the order in which keys first appear. */
export function groupBy<T>(
  rows: readonly T[],
  key: (row: T) => string,
): { name: string; rows: T[] }[] {
  const groups = new Map<string, T[]>()
  for (const row of rows) {
    const name = key(row)
    const known = groups.get(name)
    if (known) known.push(row)
    else groups.set(name, [row])
  }
  return [...groups].map(([name, members]) => ({ name, rows: members }))
}
