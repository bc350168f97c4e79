<script setup lang="ts">
import { computed } from 'vue'

/** The two circles, pushed together by how much of the scores agrees: one lens where all do. The sentence beside it says the same. */
const props = defineProps<{ agree: number; cells: number }>()
const share = computed(() => (props.cells ? props.agree / props.cells : 0))
const R = 33
const apart = computed(() => 2 * R * (1 - share.value) * 0.82 + 12)
const left = computed(() => 76 - apart.value / 2)
const right = computed(() => 76 + apart.value / 2)
const words = computed(() =>
  props.cells
    ? share.value === 1
      ? '100 %'
      : `${Math.min(99, Math.floor(share.value * 100))} %`
    : '–',
)
</script>

<template>
  <svg viewBox="0 0 152 74" width="152" height="74" aria-hidden="true">
    <circle :cx="left" cy="37" :r="R" class="a" />
    <circle :cx="right" cy="37" :r="R" class="b" />
    <text x="76" y="42">{{ words }}</text>
  </svg>
</template>

<style scoped>
svg {
  flex: none;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2;
  fill-opacity: 0.65;
}
text {
  text-anchor: middle;
  font-size: 15px;
  font-weight: 700;
  fill: var(--ink);
  /* Readable where the lens is narrower than the words. */
  stroke: var(--both-wash);
  stroke-width: 6px;
  stroke-linejoin: round;
  paint-order: stroke;
}
</style>
