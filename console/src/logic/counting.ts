/** How many of something, in words: `1 link` or `3 links`; `more` says how it goes where an s at the end does not do. */
export function many(count: number, one: string, more = `${one}s`): string {
  return count === 1 ? `1 ${one}` : `${count} ${more}`
}
