<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { kindOf } from '@/logic/kinds'
import { type Cell, cellsOf, cellSize, neighbour } from '@/logic/matrix'

const props = defineProps<{ matrix: Schemas['Matrix']; chosen?: { placement?: string; person?: string } }>()
const emit = defineEmits<{ choose: [placement: string, person: string] }>()

const NAMES = 150
const HEAD = 118
const cells = computed(() => cellsOf(props.matrix.rows))
const size = computed(() => cellSize(props.matrix.items.length, 560))
const width = computed(() => NAMES + props.matrix.items.length * size.value + 90)
const height = computed(() => HEAD + props.matrix.learners.length * size.value + 4)
const at = ref<Cell>()

function say(cell: Cell): string {
  return `${props.matrix.learners[cell.row]}, ${props.matrix.items[cell.column]}: ${kindOf(cell.kind).label}`
}
function choose(cell: Cell) {
  emit('choose', props.matrix.placements?.[cell.column] ?? '', props.matrix.people?.[cell.row] ?? '')
}
function move(event: KeyboardEvent) {
  const from = at.value ?? cells.value[0]
  if (!from) return
  if (event.key === 'Enter') return choose(from)
  const next = neighbour(cells.value, from, event.key)
  if (!next) return
  event.preventDefault()
  at.value = next
}
const isChosen = (cell: Cell) => props.chosen?.placement === props.matrix.placements?.[cell.column] && props.chosen?.person === props.matrix.people?.[cell.row]
const short = (text: string, most: number) => (text.length > most ? `${text.slice(0, most - 1)}…` : text)
</script>

<template>
  <div class="scroll matrix" tabindex="0" role="application" :aria-label="`Matrix of ${matrix.learners.length} learners and ${matrix.items.length} columns. Arrow keys move, Enter opens a cell.`" @keydown="move" @focus="at ??= cells[0]">
    <svg :width="width" :height="height" aria-hidden="true">
      <text v-for="(item, column) in matrix.items" :key="`i${column}`" class="head" :transform="`translate(${NAMES + (column + 0.62) * size}, ${HEAD - 8}) rotate(-42)`">{{ short(item, 20) }}<title>{{ item }}</title></text>
      <text v-for="(learner, row) in matrix.learners" :key="`l${row}`" class="name" :x="NAMES - 8" :y="HEAD + (row + 0.72) * size">{{ short(learner, 20) }}</text>
      <g v-for="cell in cells" :key="`${cell.row}-${cell.column}`" :class="[kindOf(cell.kind).tone, { at: at?.row === cell.row && at?.column === cell.column, chosen: isChosen(cell) }]" @click="choose(cell)">
        <title>{{ say(cell) }}</title>
        <rect :x="NAMES + cell.column * size + 1" :y="HEAD + cell.row * size + 1" :width="size - 2" :height="size - 2" rx="3" />
        <text v-if="cell.kind !== 'agree' && size > 13" class="mark" :x="NAMES + (cell.column + 0.5) * size" :y="HEAD + (cell.row + 0.7) * size">{{ kindOf(cell.kind).mark }}</text>
      </g>
    </svg>
    <p class="sr-only" aria-live="polite">{{ at ? say(at) : '' }}</p>
  </div>
</template>

<style scoped>
.head, .name { font-size: 12px; fill: var(--soft); }
.name { text-anchor: end; fill: var(--ink); }
.mark { font-size: 12px; font-weight: 700; text-anchor: middle; pointer-events: none; }
rect { stroke: transparent; stroke-width: 1.5; }
.quiet rect { fill: var(--both-wash); opacity: 0.75; }
.left rect { fill: var(--left-wash); stroke: var(--left); }
.left .mark { fill: var(--left); }
.right rect { fill: var(--right-wash); stroke: var(--right); }
.right .mark { fill: var(--right); }
.alarm rect { fill: var(--alarm); stroke: var(--alarm); }
.alarm .mark { fill: var(--sheet); }
.both rect { fill: var(--both-wash); stroke: var(--both); }
.both .mark { fill: var(--both); }
g { cursor: pointer; }
.at rect, .chosen rect { stroke: var(--ink); stroke-width: 2.5; }
</style>
