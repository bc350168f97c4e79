import {
  computed,
  nextTick,
  onBeforeUnmount,
  onMounted,
  type Ref,
  ref,
  useTemplateRef,
  watch,
} from 'vue'
import type { Schemas } from '@/api/client'
import { type Cell, cellAt, cellSize, cellsOf, neighbour, scrolledTo, sizeOf } from '@/logic/matrix'
import { paintMatrix } from './paintMatrix'

const WIDTH = 560

/**
 * What of a matrix is in sight, and painted: it follows scrolling, the frame's size, the theme and
 * printing. Keys move from cell to cell, the pointer tells what it is over. The component's elements
 * are `frame`, which scrolls, and `canvas`.
 */
export function useMatrixSight(
  matrix: Ref<Schemas['Matrix']>,
  chosen: Ref<Cell | undefined>,
  choose: (cell: Cell) => void,
) {
  const frame = useTemplateRef<HTMLElement>('frame')
  const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
  const at = ref<Cell>()
  const over = ref<Cell>()
  const printing = ref(false)
  const cells = computed(() => cellsOf(matrix.value.rows))
  const size = computed(() => cellSize(matrix.value.items.length, WIDTH))
  const whole = computed(() =>
    sizeOf(matrix.value.learners.length, matrix.value.items.length, size.value),
  )
  function paint() {
    const [box, sheet] = [frame.value, canvas.value]
    if (!box || !sheet) return
    paintMatrix(sheet, {
      matrix: matrix.value,
      size: size.value,
      width: box.clientWidth,
      height: box.clientHeight,
      left: box.scrollLeft,
      top: box.scrollTop,
      marked: [at.value, chosen.value],
    })
  }
  let asked = 0
  function soon() {
    cancelAnimationFrame(asked)
    asked = requestAnimationFrame(paint)
  }
  function pointed(event: MouseEvent): Cell | undefined {
    const box = frame.value
    if (!box) return undefined
    const { left, top } = box.getBoundingClientRect()
    const [x, y] = [event.clientX - left, event.clientY - top]
    return cellAt(matrix.value.rows, size.value, x, y, box.scrollLeft, box.scrollTop)
  }
  function move(event: KeyboardEvent) {
    const from = at.value ?? cells.value[0]
    if (!from) return
    if (event.key === 'Enter') return choose(from)
    const next = neighbour(cells.value, from, event.key)
    if (!next) return
    event.preventDefault()
    at.value = next
    const box = frame.value
    if (!box) return
    const { scrollLeft: left, scrollTop: top, clientWidth: width, clientHeight: height } = box
    box.scrollTo(scrolledTo(next, size.value, { left, top, width, height }))
  }
  usePaintedAgain(frame, paint, soon, printing)
  watch([matrix, chosen, at, size], () => nextTick(soon))
  return { at, over, printing, cells, whole, soon, pointed, move }
}

/** Paint first, and again when the frame's size or the theme changes and around printing. */
function usePaintedAgain(
  frame: Readonly<Ref<HTMLElement | null>>,
  paint: () => void,
  soon: () => void,
  printing: Ref<boolean>,
) {
  const dark = window.matchMedia('(prefers-color-scheme: dark)')
  const sized = new ResizeObserver(soon)
  const beforePrint = () => {
    printing.value = true
    nextTick(paint)
  }
  const afterPrint = () => (printing.value = false)
  onMounted(() => {
    if (frame.value) sized.observe(frame.value)
    dark.addEventListener('change', soon)
    window.addEventListener('beforeprint', beforePrint)
    window.addEventListener('afterprint', afterPrint)
    paint()
  })
  onBeforeUnmount(() => {
    sized.disconnect()
    dark.removeEventListener('change', soon)
    window.removeEventListener('beforeprint', beforePrint)
    window.removeEventListener('afterprint', afterPrint)
  })
}
