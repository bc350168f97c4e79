<script setup lang="ts">
import { NSkeleton } from 'naive-ui/es/skeleton'

/** Something is being read: the shape of what comes, and a sentence for who cannot see it. */
withDefaults(defineProps<{ what: string; rows?: number }>(), { rows: 3 })
</script>

<template>
  <div class="loading" role="status">
    <p class="soft">
      <span class="dots" aria-hidden="true"></span>{{ $t('common.reading', { what }) }}
    </p>
    <NSkeleton text :repeat="rows" aria-hidden="true" :animated="false" />
  </div>
</template>

<style scoped>
.loading {
  padding: 1rem 0;
  max-width: 40rem;
}
p {
  display: flex;
  gap: 0.7rem;
  align-items: center;
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
</style>
