/** A row of a tree, with its own rows where it is one that folds. */
export interface TreeRow<Node> {
  key: string
  children?: Node[]
}

/** How a row looks, and what happens on it by pointer. */
export interface RowFacts {
  checked?: 'true' | 'mixed' | 'false'
  selected?: boolean
  /** Classes of the row. */
  marks?: (string | Record<string, boolean | undefined>)[]
  on?: Record<string, (event: never) => void>
}
