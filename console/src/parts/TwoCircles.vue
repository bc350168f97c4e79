<script setup lang="ts">
/** The motif: publisher left, shell right; together they overlap, and what is not whole is dashed. */
withDefaults(
  defineProps<{ together?: boolean; dashed?: boolean; faint?: boolean; width?: number }>(),
  { width: 64 },
)
</script>

<template>
  <svg
    viewBox="0 0 64 40"
    :width="width"
    :height="(width * 40) / 64"
    aria-hidden="true"
    :class="{ dashed, faint }"
  >
    <circle class="a" :cx="together ? 25 : 18" cy="20" r="15" />
    <circle class="b" :cx="together ? 39 : 46" cy="20" r="15" />
  </svg>
</template>

<style scoped>
circle {
  stroke-width: 2;
  transition: cx 0.4s;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  fill-opacity: 0.7;
}
.dashed circle {
  stroke-dasharray: 4 3;
}
.faint circle {
  fill-opacity: 0.35;
}
@media (max-width: 640px) {
  svg {
    display: none;
  }
}
</style>
