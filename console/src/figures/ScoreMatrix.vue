<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { kindOf } from '@/logic/kinds'
import { type Cell, cellAt, cellSize, cellsOf, neighbour, scrolledTo, sizeOf } from '@/logic/matrix'
import { paintMatrix } from './paintMatrix'

/** A whole class at a glance. Only what is in sight is painted, so that 500 learners by 40 columns stand at once and scroll smoothly. */
const props = defineProps<{
  matrix: Schemas['Matrix']
  chosen?: { placement?: string; person?: string }
}>()
const emit = defineEmits<{ choose: [placement: string, person: string] }>()
const WIDTH = 560
const frame = ref<HTMLElement>()
const canvas = ref<HTMLCanvasElement>()
const at = ref<Cell>()
const over = ref<Cell>()
const printing = ref(false)
const cells = computed(() => cellsOf(props.matrix.rows))
const size = computed(() => cellSize(props.matrix.items.length, WIDTH))
const whole = computed(() =>
  sizeOf(props.matrix.learners.length, props.matrix.items.length, size.value),
)
const chosen = computed(() =>
  props.chosen?.placement
    ? cells.value.find(
        (cell) =>
          props.chosen?.placement === props.matrix.placements?.[cell.column] &&
          props.chosen?.person === props.matrix.people?.[cell.row],
      )
    : undefined,
)
const say = (cell: Cell) =>
  `${props.matrix.learners[cell.row]}, ${props.matrix.items[cell.column]}: ${kindOf(cell.kind).label}`
const said = computed(() => over.value ?? at.value)

function paint() {
  const [box, sheet] = [frame.value, canvas.value]
  if (!box || !sheet) return
  paintMatrix(sheet, {
    matrix: props.matrix,
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
  const box = frame.value?.getBoundingClientRect()
  return box && frame.value
    ? cellAt(
        props.matrix.rows,
        size.value,
        event.clientX - box.left,
        event.clientY - box.top,
        frame.value.scrollLeft,
        frame.value.scrollTop,
      )
    : undefined
}
function choose(cell: Cell | undefined) {
  if (cell)
    emit(
      'choose',
      props.matrix.placements?.[cell.column] ?? '',
      props.matrix.people?.[cell.row] ?? '',
    )
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
  if (box)
    box.scrollTo(
      scrolledTo(next, size.value, {
        left: box.scrollLeft,
        top: box.scrollTop,
        width: box.clientWidth,
        height: box.clientHeight,
      }),
    )
}
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
watch([() => props.matrix, chosen, at, size], () => nextTick(soon))
</script>

<template>
  <div
    ref="frame"
    class="frame"
    :class="{ printing }"
    tabindex="0"
    role="application"
    :style="{ maxWidth: `${whole.width}px` }"
    :aria-label="
      $t('figures.score_matrix.matrix_of_learners_and_columns', {
        learners: matrix.learners.length,
        items: matrix.items.length,
      })
    "
    @keydown="move"
    @focus="at ??= cells[0]"
    @scroll.passive="soon"
    @mousemove="over = pointed($event)"
    @mouseleave="over = undefined"
    @click="choose(pointed($event))"
  >
    <canvas ref="canvas" aria-hidden="true"></canvas>
    <div :style="{ width: `${whole.width}px`, height: `${whole.height}px` }"></div>
  </div>
  <p class="said" aria-live="polite">
    <template v-if="said">{{ say(said) }}</template><span v-else class="soft">{{
      $t('figures.score_matrix.point_at_a_cell_or', {
        story: matrix.placements?.length ? $t('figures.score_matrix.a_click_opens_its_story') : '',
      })
    }}</span>
  </p>
</template>

<style scoped>
.frame {
  overflow: auto;
  max-height: 78vh;
  position: relative;
}
.frame.printing {
  max-height: none;
  overflow: visible;
}
canvas {
  position: sticky;
  left: 0;
  top: 0;
  display: block;
  pointer-events: none;
}
.said {
  min-height: 1.5em;
  margin: 0.3rem 0 0;
  font-size: 0.9rem;
}
@media (pointer: fine) {
  .frame {
    cursor: pointer;
  }
}
</style>
