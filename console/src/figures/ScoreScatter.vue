<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { kindOf } from '@/logic/kinds'
import { dotsOf, type Dot, MOST, NONE } from '@/logic/scatter'
import { t } from '@/words'

/** Publisher's share to the right, gradebook's upwards: on the diagonal both agree, and each kind of trouble is a shape of its own. */
const props = defineProps<{ comparison: Schemas['Comparison'] }>()
const emit = defineEmits<{ choose: [placement: string, person: string] }>()
const S = 420
const PAD = 38
const dots = computed(() =>
  props.comparison.matrix ? dotsOf(props.comparison.matrix.rows, props.comparison.shares) : [],
)
const at = (share: number) => PAD + ((share - NONE) / (MOST - NONE)) * (S - PAD - 8)
const up = (share: number) => S - at(share)
const size = (dot: Dot) => 3.5 + Math.min(6, Math.log2(dot.count))
const off = computed(() =>
  dots.value.filter((dot) => dot.kind !== 'agree').reduce((sum, dot) => sum + dot.count, 0),
)
const choose = (dot: Dot) =>
  dot.kind !== 'agree' &&
  emit(
    'choose',
    props.comparison.matrix?.placements?.[dot.column] ?? '',
    props.comparison.matrix?.people?.[dot.row] ?? '',
  )
const say = (dot: Dot) =>
  t('figures.score_scatter.at_the_publisher_in_the', {
    count: dot.count,
    label: kindOf(dot.kind).label,
    x: dot.x === NONE ? t('figures.score_scatter.no_score') : `${Math.round(dot.x * 100)} %`,
    y: dot.y === NONE ? 'none' : `${Math.round(dot.y * 100)} %`,
  })
const TICKS = [0, 0.25, 0.5, 0.75, 1]
</script>

<template>
  <figure>
    <svg
      :viewBox="`0 0 ${S} ${S}`"
      role="img"
      :aria-label="$t('figures.score_scatter.each_score_by_its_share', { off })"
    >
      <rect class="field" :x="at(0)" :y="up(1)" :width="at(1) - at(0)" :height="at(1) - at(0)" />
      <line class="none" :x1="at(NONE)" :x2="at(NONE)" :y1="up(0)" :y2="up(MOST)" />
      <line class="none" :x1="at(0)" :x2="at(MOST)" :y1="up(NONE)" :y2="up(NONE)" />
      <line class="same" :x1="at(0)" :y1="up(0)" :x2="at(MOST)" :y2="up(MOST)" />
      <template v-for="tick in TICKS" :key="tick">
        <text :x="at(tick)" :y="S - 4" class="x">{{ tick * 100 }}</text>
        <text :x="PAD - 16" :y="up(tick) + 4" class="y">{{ tick * 100 }}</text>
      </template>
      <text class="left-ink" :x="S - 8" :y="S - 20" text-anchor="end">
        {{ $t('figures.score_scatter.publisher') }}
      </text>
      <text class="right-ink" :x="at(0) + 6" :y="up(MOST) + 12">
        {{ $t('figures.score_scatter.gradebook') }}
      </text>
      <text class="hint" :x="at(0) + 8" :y="up(1.18)">
        {{ $t('figures.score_scatter.above_worth_more_in_the') }}
      </text>
      <text class="hint" :x="at(1) - 4" :y="up(0.06)" text-anchor="end">
        {{ $t('figures.score_scatter.below_worth_less') }}
      </text>
      <g
        v-for="(dot, place) in dots"
        :key="place"
        :class="kindOf(dot.kind).tone"
        @click="choose(dot)"
      >
        <title>{{ say(dot) }}</title>
        <circle :cx="at(dot.x)" :cy="up(dot.y)" :r="size(dot)" />
        <text v-if="kindOf(dot.kind).mark" class="mark" :x="at(dot.x)" :y="up(dot.y) + 3.5">
          {{ kindOf(dot.kind).mark }}
        </text>
      </g>
    </svg>
    <figcaption class="soft">
      {{ $t('figures.score_scatter.on_the_line_both_sides') }}
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  max-width: 34rem;
}
svg {
  width: 100%;
  display: block;
}
.field {
  fill: var(--sheet);
  stroke: var(--rule);
}
.same {
  stroke: var(--both);
  stroke-width: 1.5;
}
.none {
  stroke: var(--rule);
  stroke-dasharray: 3 3;
}
text {
  font-size: 11px;
  fill: var(--soft);
}
text.left-ink {
  fill: var(--left);
}
text.right-ink {
  fill: var(--right);
}
.hint {
  font-style: italic;
}
.x {
  text-anchor: middle;
}
.y {
  text-anchor: end;
}
circle {
  stroke-width: 1.4;
}
.quiet circle {
  fill: var(--both-wash);
  stroke: var(--both);
  stroke-opacity: 0.35;
}
.left circle {
  fill: var(--left-wash);
  stroke: var(--left);
}
.right circle {
  fill: var(--right-wash);
  stroke: var(--right);
}
.alarm circle {
  fill: var(--alarm-wash);
  stroke: var(--alarm);
}
.both circle {
  fill: var(--both-wash);
  stroke: var(--both);
}
g:not(.quiet) {
  cursor: pointer;
}
.mark {
  font-size: 9px;
  font-weight: 700;
  text-anchor: middle;
  fill: var(--ink);
  pointer-events: none;
}
figcaption {
  font-size: 0.86rem;
}
</style>
