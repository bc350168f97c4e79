<script setup lang="ts">
import { Problem } from '@/api/client'

defineProps<{ error: Error | null }>()
defineEmits<{ again: [] }>()
</script>

<template>
  <div v-if="error" class="note" role="alert">
    <p>
      <strong>{{
        error instanceof Problem ? error.message : 'Venn Pair cannot be reached.'
      }}</strong>
    </p>
    <p>
      {{ error instanceof Problem ? error.remedy : 'Check your connection; nothing was lost.' }}
    </p>
    <button v-if="$attrs.onAgain" type="button" @click="$emit('again')">Try again</button>
  </div>
</template>

<style scoped>
.note {
  border-left: 4px solid var(--alarm);
  background: var(--alarm-wash);
  border-radius: 0 8px 8px 0;
  padding: 0.7rem 1rem;
  margin: 0.6rem 0;
}
.note p {
  margin: 0;
}
</style>
