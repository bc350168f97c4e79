<script setup lang="ts">
import { computed, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import { kindOf } from '@/logic/kinds'
import { type Cell, cellsOf } from '@/logic/matrix'
import { useMatrixSight } from './useMatrixSight'

/** A whole class at a glance. Only what is in sight is painted, so that 500 learners by 40 columns are there at once and scroll smoothly. */
const props = defineProps<{
  matrix: Schemas['Matrix']
  chosen?: { placement?: string; person?: string }
}>()
const emit = defineEmits<{ choose: [placement: string, person: string] }>()
const placementOf = (cell: Cell) => props.matrix.placements?.[cell.column] ?? ''
const personOf = (cell: Cell) => props.matrix.people?.[cell.row] ?? ''
const chosen = computed(() => {
  const { placement, person } = props.chosen ?? {}
  if (!placement) return undefined
  return cellsOf(props.matrix.rows).find(
    (cell) => placementOf(cell) === placement && personOf(cell) === person,
  )
})
const choose = (cell: Cell | undefined) => {
  if (cell) emit('choose', placementOf(cell), personOf(cell))
}
const { at, over, printing, cells, whole, soon, pointed, move } = useMatrixSight(
  toRef(props, 'matrix'),
  chosen,
  choose,
)
const say = (cell: Cell) =>
  `${props.matrix.learners[cell.row]}, ${props.matrix.items[cell.column]}: ${kindOf(cell.kind).label}`
const said = computed(() => over.value ?? at.value)
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
