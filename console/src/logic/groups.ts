/** Group rows by a key, keeping the order in which keys first appear. */
export function groupBy<T, K extends string>(
  rows: readonly T[],
  key: (row: T) => K,
): { name: K; rows: T[] }[] {
  const groups = new Map<K, T[]>()
  for (const row of rows) {
    const name = key(row)
    const known = groups.get(name)
    if (known) known.push(row)
    else groups.set(name, [row])
  }
  return [...groups].map(([name, members]) => ({ name, rows: members }))
}
