/** The matrix of a class as rectangles: how large a cell may be so that the whole class is seen. */

export interface Cell {
  row: number
  column: number
  kind: string
}

export function cellsOf(rows: readonly (readonly (string | null)[])[]): Cell[] {
  return rows.flatMap((kinds, row) => kinds.flatMap((kind, column) => (kind === null ? [] : [{ row, column, kind }])))
}

export function cellSize(columns: number, width: number): number {
  if (columns === 0) return 0
  return Math.max(12, Math.min(28, Math.floor(width / columns)))
}

/** The neighbour that an arrow key leads to among the cells that exist, or undefined at an edge. */
export function neighbour(cells: readonly Cell[], from: Cell, key: string): Cell | undefined {
  const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[key]
  if (!step) return undefined
  const [down = 0, right = 0] = step
  const ahead = cells.filter((cell) => (down ? cell.column === from.column && (cell.row - from.row) * down > 0 : cell.row === from.row && (cell.column - from.column) * right > 0))
  return ahead.sort((a, b) => Math.abs(a.row - from.row) + Math.abs(a.column - from.column) - Math.abs(b.row - from.row) - Math.abs(b.column - from.column))[0]
}
