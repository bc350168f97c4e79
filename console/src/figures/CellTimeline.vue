<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { placesOf } from '@/logic/timeline'
import { t } from '@/words'

/** One cell through time: the publisher's attempts above, the gradebook below, each at its height; a band where the two agree. */
const props = defineProps<{ events: readonly Schemas['CellEvent'][]; zone: string }>()
const W = 640
const H = 150
const scored = computed(() =>
  props.events.filter((each) => each.share !== null && each.side !== 'venn'),
)
const places = computed(() => placesOf(scored.value))
const most = computed(() => Math.max(1, ...scored.value.map((each) => each.share ?? 0)))
const dots = computed(() =>
  scored.value.map((each, order) => ({
    each,
    x: 20 + (places.value[order] ?? 0) * (W - 120),
    y: H - 24 - ((each.share ?? 0) / most.value) * (H - 50),
  })),
)
const line = (side: string) => {
  const own = dots.value.filter((dot) => dot.each.side === side)
  if (!own.length) return ''
  // Each value holds until the next one.
  const steps = own.map((dot, order) => `${order ? `H${dot.x} V${dot.y}` : `M${dot.x} ${dot.y}`}`)
  return `${steps.join(' ')} H${W - 90}`
}
const last = (side: string) => dots.value.filter((dot) => dot.each.side === side).at(-1)
const words = computed(() =>
  scored.value
    .map(
      (each) =>
        `${inZone(each.at, props.zone)}: ${each.score} ${each.side === 'publisher' ? t('figures.cell_timeline.at_the_publisher') : t('figures.cell_timeline.in_the_gradebook')}`,
    )
    .join('; '),
)
</script>

<template>
  <svg v-if="dots.length" :viewBox="`0 0 ${W} ${H}`" role="img" :aria-label="words">
    <line class="axis" x1="10" :x2="W - 84" :y1="H - 24" :y2="H - 24" />
    <path class="publisher" :d="line('publisher')" />
    <path class="gradebook" :d="line('gradebook')" />
    <g v-for="(dot, place) in dots" :key="place" :class="dot.each.side">
      <title>{{ inZone(dot.each.at, zone) }}: {{ dot.each.score }}, {{ dot.each.words }}</title>
      <circle v-if="dot.each.side === 'publisher'" :cx="dot.x" :cy="dot.y" r="6" />
      <rect v-else :x="dot.x - 5" :y="dot.y - 5" width="10" height="10" rx="2" />
      <text :x="dot.x" :y="dot.each.side === 'publisher' ? dot.y - 11 : dot.y + 19">
        {{ dot.each.score }}
      </text>
    </g>
    <text
      v-if="last('publisher')"
      class="end publisher"
      :x="W - 84"
      :y="
        last('publisher')!.y +
        4 -
        (last('gradebook') && Math.abs(last('publisher')!.y - last('gradebook')!.y) < 14 ? 9 : 0)
      "
    >
      {{ $t('figures.cell_timeline.publisher') }}
    </text>
    <text
      v-if="last('gradebook')"
      class="end gradebook"
      :x="W - 84"
      :y="
        last('gradebook')!.y +
        4 +
        (last('publisher') && Math.abs(last('publisher')!.y - last('gradebook')!.y) < 14 ? 9 : 0)
      "
    >
      {{ $t('figures.cell_timeline.gradebook') }}
    </text>
  </svg>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 44rem;
  display: block;
}
path {
  fill: none;
  stroke-width: 2;
}
path.publisher {
  stroke: var(--left);
}
path.gradebook {
  stroke: var(--right);
  stroke-dasharray: 5 3;
}
.axis {
  stroke: var(--rule);
}
circle {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2;
}
rect {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2;
}
text {
  font-size: 12px;
  text-anchor: middle;
  fill: var(--ink);
}
.end {
  text-anchor: start;
}
.end.publisher {
  fill: var(--left);
}
.end.gradebook {
  fill: var(--right);
}
</style>
