/** The matrix of a class as rectangles: how large a cell may be so that the whole class is seen. */

export interface Cell {
  row: number
  column: number
  kind: string
}

export function cellsOf(rows: readonly (readonly (string | null)[])[]): Cell[] {
  return rows.flatMap((kinds, row) =>
    kinds.flatMap((kind, column) => (kind === null ? [] : [{ row, column, kind }])),
  )
}

export function cellSize(columns: number, width: number): number {
  if (columns === 0) return 0
  return Math.max(12, Math.min(28, Math.floor(width / columns)))
}

/** Room for names at the left, for slanted titles above, and for the last title at the right. */
export const FRAME = { names: 150, head: 118, tail: 90 }

export const sizeOf = (learners: number, columns: number, size: number) => ({
  width: FRAME.names + columns * size + FRAME.tail,
  height: FRAME.head + learners * size + 4,
})

interface Window {
  size: number
  width: number
  height: number
  left: number
  top: number
  matrix: { learners: readonly unknown[]; items: readonly unknown[] }
}

/** The first row and column in sight, and the first beyond. */
export function inSight({ size, width, height, left, top, matrix }: Window) {
  const part = (scrolled: number, room: number, count: number): [number, number] => [
    Math.max(0, Math.floor(scrolled / size)),
    Math.min(count, Math.ceil((scrolled + room) / size)),
  ]
  return {
    rows: part(top, height - FRAME.head, matrix.learners.length),
    columns: part(left, width - FRAME.names, matrix.items.length),
  }
}

/** The cell under a point of the frame, if there is one. */
export function cellAt(
  rows: readonly (readonly (string | null)[])[],
  size: number,
  x: number,
  y: number,
  left: number,
  top: number,
): Cell | undefined {
  if (x < FRAME.names || y < FRAME.head) return undefined
  const column = Math.floor((x - FRAME.names + left) / size)
  const row = Math.floor((y - FRAME.head + top) / size)
  const kind = rows[row]?.[column]
  return kind ? { row, column, kind } : undefined
}

/** Where to scroll so that a cell is in sight, moving as little as may be. */
export function scrolledTo(
  cell: Cell,
  size: number,
  box: { left: number; top: number; width: number; height: number },
) {
  const into = (place: number, scrolled: number, room: number) =>
    Math.min(place * size, Math.max(scrolled, (place + 1) * size - room + 4))
  return {
    left: into(cell.column, box.left, box.width - FRAME.names),
    top: into(cell.row, box.top, box.height - FRAME.head),
  }
}

/** The neighbour that an arrow key leads to among the cells that exist, or undefined at an edge. */
export function neighbour(cells: readonly Cell[], from: Cell, key: string): Cell | undefined {
  const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[key]
  if (!step) return undefined
  const [down = 0, right = 0] = step
  const ahead = cells.filter((cell) =>
    down
      ? cell.column === from.column && (cell.row - from.row) * down > 0
      : cell.row === from.row && (cell.column - from.column) * right > 0,
  )
  return ahead.sort(
    (a, b) =>
      Math.abs(a.row - from.row) +
      Math.abs(a.column - from.column) -
      Math.abs(b.row - from.row) -
      Math.abs(b.column - from.column),
  )[0]
}
