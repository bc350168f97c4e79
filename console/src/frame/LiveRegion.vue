<script setup lang="ts">
import { lastSaid } from '@/parts/useSay'
</script>

<template>
  <p class="sr-only" aria-live="polite">{{ lastSaid }}</p>
</template>
