<script setup lang="ts">
import { NAlert } from 'naive-ui/es/alert'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { problemWords } from './problemWords'
import { useTelling } from './untold'

/** What went wrong, and what to do: an alert that is read out at once. */
const props = defineProps<{
  error: Error | null
  /** ``@again``: a prop, as only that tells whether anybody listens. */
  onAgain?: () => void
}>()
const words = computed(() => problemWords(props.error))
useTelling(() => props.error)
</script>

<template>
  <NAlert v-if="error" class="note" type="error" role="alert" :title="words.what" :bordered="false">
    {{ words.remedy }}
    <p v-if="onAgain">
      <NButton size="small" @click="onAgain()">{{ $t('common.try_again') }}</NButton>
    </p>
  </NAlert>
</template>

<style scoped>
.note {
  margin: 0.6rem 0;
}
p {
  margin: 0.5rem 0 0;
}
</style>
