/** Say whether every word is somewhere in a text, whatever its case. */
export const holds = (text: string, words: string): boolean =>
  words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.toLowerCase().includes(word))
