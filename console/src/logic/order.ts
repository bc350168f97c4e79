import { language } from '@/words'

/** Compare names as people list them: section 2 before section 10, letters as the language has them. */
export const byName = (one: string, other: string): number =>
  one.localeCompare(other, language(), { numeric: true })
