<script setup lang="ts">
import type { Schemas } from '@/api/client'

/** Publisher left, shell right; what was deployed is where they overlapped, and the side that moved has drifted away. */
defineProps<{ drift: Schemas['Drift'] }>()
</script>

<template>
  <div class="figure" :class="drift.side">
    <svg viewBox="0 0 84 40" width="84" height="40" aria-hidden="true">
      <circle
        class="a"
        :class="{ moved: drift.side === 'publisher' }"
        :cx="drift.side === 'publisher' ? 20 : 32"
        cy="20"
        r="15"
      />
      <circle
        class="b"
        :class="{ moved: drift.side === 'shell' }"
        :cx="drift.side === 'shell' ? 64 : 52"
        cy="20"
        r="15"
      />
      <circle class="was" :cx="drift.side === 'publisher' ? 32 : 52" cy="20" r="15" />
    </svg>
    <span
      ><span class="soft">{{ $t('figures.drift_figure.was') }}</span>
      {{ drift.before || $t('figures.drift_figure.nothing') }}</span
    >
    <span aria-hidden="true">→</span>
    <span class="now"
      ><span class="soft">{{
        $t('figures.drift_figure.now', {
          publisher:
            drift.side === 'shell'
              ? $t('figures.drift_figure.in_the_shell')
              : $t('figures.drift_figure.at_the_publisher'),
        })
      }}</span>
      {{ drift.after || $t('figures.drift_figure.nothing') }}</span
    >
  </div>
</template>

<style scoped>
.figure {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  flex-wrap: wrap;
  font-size: 0.92rem;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
}
.a,
.b {
  stroke-width: 1.5;
}
.moved {
  stroke-width: 3;
}
.was {
  fill: none;
  stroke: var(--soft);
  stroke-dasharray: 3 3;
}
.shell .now {
  color: var(--right);
  font-weight: 600;
}
.publisher .now {
  color: var(--left);
  font-weight: 600;
}
.now .soft {
  font-weight: 400;
}
</style>
