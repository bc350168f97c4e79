<script setup lang="ts">
import { lastSaid } from '@/parts/useSay'
</script>

<template>
  <p class="sr-only" role="status" aria-live="polite">{{ lastSaid }}</p>
</template>
