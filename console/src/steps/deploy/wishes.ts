/** What is wanted of one item instead of what holds for all; blank or missing: as for all. */
export interface Wish {
  title?: string
  becomes?: 'column' | 'link' | ''
  points?: string
  due_at?: string
  category?: string
  show?: 'shown' | 'hidden' | ''
  /** Words of the page's text that become the link, where items go into a page. */
  words?: string
}

/** Wishes by item. */
export type Wishes = Record<string, Wish>

/** Return the wishes of the chosen items as the service takes them, those that say nothing left out. */
export function wishesOf(wishes: Wishes, chosen: string[]): Record<string, object> {
  const told = chosen.map((item) => {
    const wish = wishes[item] ?? {}
    const texts = {
      title: wish.title?.trim(),
      becomes: wish.becomes,
      points: wish.points?.trim(),
      due_at: wish.due_at,
      category: wish.category?.trim(),
      words: wish.words?.trim(),
    }
    const said = Object.fromEntries(Object.entries(texts).filter(([, value]) => value))
    return [item, wish.show ? { ...said, visible: wish.show === 'shown' } : said] as const
  })
  return Object.fromEntries(told.filter(([, said]) => Object.keys(said).length))
}
