/** Paints the part of a matrix that is in sight: names at the left and titles at the top stay where they are. */
import type { Schemas } from '@/api/client'
import { kindOf } from '@/logic/kinds'
import { type Cell, FRAME, inSight } from '@/logic/matrix'

export interface Sight {
  matrix: Schemas['Matrix']
  size: number
  width: number
  height: number
  left: number
  top: number
  marked: readonly (Cell | undefined)[]
}

const FONT = "12px Inter, 'Segoe UI', system-ui, sans-serif"
const short = (text: string, most: number) =>
  text.length > most ? `${text.slice(0, most - 1)}…` : text

export function paintMatrix(canvas: HTMLCanvasElement, sight: Sight): void {
  const ink = canvas.getContext('2d')
  if (!ink) return
  const ratio = window.devicePixelRatio || 1
  canvas.width = sight.width * ratio
  canvas.height = sight.height * ratio
  canvas.style.width = `${sight.width}px`
  canvas.style.height = `${sight.height}px`
  // It takes no room of its own: what gives the frame its length is the empty box behind it.
  canvas.style.marginBottom = `-${sight.height}px`
  ink.scale(ratio, ratio)
  ink.font = FONT
  const style = getComputedStyle(canvas)
  const colour = (name: string) => style.getPropertyValue(`--${name}`)
  const seen = inSight(sight)
  within(ink, FRAME.names, FRAME.head, sight, () => paintCells(ink, sight, seen, colour))
  within(ink, 0, FRAME.head, sight, () => paintNames(ink, sight, seen, colour))
  within(ink, FRAME.names, 0, sight, () => paintTitles(ink, sight, seen, colour))
}

type Seen = ReturnType<typeof inSight>
type Colour = (name: string) => string

function within(
  ink: CanvasRenderingContext2D,
  left: number,
  top: number,
  sight: Sight,
  paint: () => void,
) {
  ink.save()
  ink.beginPath()
  ink.rect(left, top, sight.width - left, sight.height - top)
  ink.clip()
  paint()
  ink.restore()
}

function paintCells(ink: CanvasRenderingContext2D, sight: Sight, seen: Seen, colour: Colour) {
  const { matrix, size, marked } = sight
  ink.textAlign = 'center'
  ink.font = `700 ${FONT}`
  for (let row = seen.rows[0]; row < seen.rows[1]; row++)
    for (let column = seen.columns[0]; column < seen.columns[1]; column++) {
      const kind = matrix.rows[row]?.[column]
      if (!kind) continue
      const { tone, mark } = kindOf(kind)
      const [x, y] = [FRAME.names + column * size - sight.left, FRAME.head + row * size - sight.top]
      const here = marked.some((cell) => cell?.row === row && cell.column === column)
      ink.beginPath()
      ink.roundRect(x + 1.5, y + 1.5, size - 3, size - 3, 3)
      ink.globalAlpha = tone === 'quiet' ? 0.75 : 1
      ink.fillStyle =
        tone === 'alarm' ? colour('alarm') : colour(tone === 'quiet' ? 'both-wash' : `${tone}-wash`)
      ink.fill()
      ink.globalAlpha = 1
      if (tone !== 'quiet' || here) {
        ink.lineWidth = here ? 2.5 : 1.5
        ink.strokeStyle = here ? colour('ink') : colour(tone)
        ink.stroke()
      }
      if (mark && size > 13) {
        ink.fillStyle = tone === 'alarm' ? colour('sheet') : colour(tone)
        ink.fillText(mark, x + size / 2, y + size * 0.7)
      }
    }
}

function paintNames(ink: CanvasRenderingContext2D, sight: Sight, seen: Seen, colour: Colour) {
  ink.textAlign = 'right'
  ink.fillStyle = colour('ink')
  for (let row = seen.rows[0]; row < seen.rows[1]; row++)
    ink.fillText(
      short(sight.matrix.learners[row] ?? '', 20),
      FRAME.names - 8,
      FRAME.head + (row + 0.72) * sight.size - sight.top,
    )
}

function paintTitles(ink: CanvasRenderingContext2D, sight: Sight, seen: Seen, colour: Colour) {
  ink.textAlign = 'left'
  ink.fillStyle = colour('soft')
  for (let column = seen.columns[0]; column < seen.columns[1]; column++) {
    ink.save()
    ink.translate(FRAME.names + (column + 0.62) * sight.size - sight.left, FRAME.head - 8)
    ink.rotate((-42 * Math.PI) / 180)
    ink.fillText(short(sight.matrix.items[column] ?? '', 20), 0, 0)
    ink.restore()
  }
}
