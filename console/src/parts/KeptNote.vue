<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'

/** Says that what was chosen before is still chosen, and lets one start over. */
const emit = defineEmits<{ over: [] }>()
</script>

<template>
  <p class="row kept" role="status">
    <span>{{ $t('common.kept') }}</span>
    <NButton size="small" quaternary @click="emit('over')">{{ $t('common.start_over') }}</NButton>
  </p>
</template>

<style scoped>
.kept {
  margin: 0 0 0.6rem;
  color: var(--soft);
}
</style>
