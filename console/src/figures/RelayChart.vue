<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import { inZone } from '@/logic/dates'
import { bars, spanOf } from '@/logic/relay'

/** Received from the publisher grows upwards, accepted by the gradebook downwards: where both mirror each other, all that came has gone. */
const props = defineProps<{ chart: Schemas['Chart']; zone: string }>()
const W = 720
const H = 62
const rows = computed(() => bars(props.chart, W, H - 6))
const sum = (name: 'received' | 'accepted') =>
  props.chart.buckets.reduce((total, each) => total + each[name], 0)
const slowest = computed(() => Math.max(0, ...props.chart.buckets.map((each) => each.most_ms ?? 0)))
const words = computed(
  () =>
    `${many(sum('received'), 'score')} received, ${sum('accepted')} accepted by the gradebook${slowest.value ? `, the slowest after ${spanOf(slowest.value)}` : ''}.`,
)
const title = (each: Schemas['Bucket']) =>
  `${inZone(each.at, props.zone)}: ${each.received} received, ${each.accepted} accepted${each.lag_ms === null ? '' : `, half within ${spanOf(each.lag_ms)}`}`
</script>

<template>
  <figure>
    <figcaption class="row">
      <span class="left-ink">▲ received from the publisher</span
      ><span class="right-ink">▼ accepted by the gradebook</span
      ><span class="soft push">{{ words }}</span>
    </figcaption>
    <svg :viewBox="`0 0 ${W} ${2 * H}`" role="img" :aria-label="words" preserveAspectRatio="none">
      <line x1="0" :x2="W" :y1="H" :y2="H" class="axis" />
      <g v-for="each in rows" :key="each.bucket.at">
        <title>{{ title(each.bucket as Schemas['Bucket']) }}</title>
        <rect
          :x="each.x"
          :y="H - 1 - each.up"
          :width="each.width"
          :height="each.up"
          class="in"
          rx="1"
        />
        <rect :x="each.x" :y="H + 1" :width="each.width" :height="each.down" class="out" rx="1" />
        <rect
          v-if="each.up > each.down"
          :x="each.x"
          :y="H + 1 + each.down"
          :width="each.width"
          :height="each.up - each.down"
          class="due"
          rx="1"
        />
      </g>
    </svg>
    <div class="row ends soft">
      <span>{{ inZone(chart.since, zone) }}</span><span class="push">now</span>
    </div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
svg {
  width: 100%;
  height: 8rem;
  display: block;
}
.axis {
  stroke: var(--rule);
  stroke-width: 1;
  vector-effect: non-scaling-stroke;
}
.in {
  fill: var(--left);
}
.out {
  fill: var(--right);
}
.due {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 2 2;
  vector-effect: non-scaling-stroke;
}
figcaption,
.ends {
  font-size: 0.86rem;
}
</style>
