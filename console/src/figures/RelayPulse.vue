<script setup lang="ts">
/** The two circles with the way between them: open and flowing, waiting, blocked, or cut. The sentence beside it says the same. */
defineProps<{ level: string }>()
</script>

<template>
  <svg viewBox="0 0 150 74" width="150" height="74" aria-hidden="true" :class="level">
    <circle cx="32" cy="37" r="27" class="a" />
    <circle cx="118" cy="37" r="27" class="b" />
    <g v-if="level !== 'off'">
      <circle
        v-for="at in [0, 1, 2]"
        :key="at"
        :cx="65 + at * 10"
        cy="37"
        r="3.5"
        class="dot"
        :style="{ animationDelay: `${at * 0.3}s` }"
      />
    </g>
    <path v-if="level === 'trouble'" d="M75 20 v34" class="bar" />
    <path v-if="level === 'off'" d="M64 26 l22 22 M86 26 l-22 22" class="bar" />
  </svg>
</template>

<style scoped>
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2;
}
.dot {
  fill: var(--both);
}
.bar {
  stroke: var(--alarm);
  stroke-width: 5;
  stroke-linecap: round;
}
.waits .dot {
  fill: none;
  stroke: var(--both);
  stroke-width: 2;
}
@media (prefers-reduced-motion: no-preference) {
  .well .dot {
    animation: flow 1.2s infinite ease-in-out;
  }
}
@keyframes flow {
  50% {
    opacity: 0.25;
  }
}
</style>
