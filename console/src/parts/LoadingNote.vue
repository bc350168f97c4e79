<script setup lang="ts">
defineProps<{ what: string }>()
</script>

<template>
  <p class="loading soft" role="status">
    <span class="dots" aria-hidden="true"></span>Reading {{ what }} …
  </p>
</template>

<style scoped>
.loading {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  padding: 1.4rem 0;
}
.dots {
  width: 34px;
  height: 18px;
  background:
    radial-gradient(circle at 10px 9px, var(--left) 7px, transparent 8px),
    radial-gradient(circle at 24px 9px, var(--right) 7px, transparent 8px);
  animation: breathe 1.4s infinite ease-in-out;
}
@keyframes breathe {
  50% {
    opacity: 0.35;
  }
}
@media (prefers-reduced-motion: reduce) {
  .dots {
    animation: none;
  }
}
</style>
