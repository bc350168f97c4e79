<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { stateName } from '@/logic/states'

defineProps<{ steps: Schemas['OperationStep'][] }>()
</script>

<template>
  <p v-if="!steps.length" class="soft">
    {{ $t('operations.operation_steps.its_single_writes_are_not') }}
  </p>
  <ol v-else :aria-label="$t('operations.operation_steps.steps')">
    <li v-for="(step, index) in steps" :key="index" :class="step.state">
      <span class="state">{{ stateName('step', step.state) }}</span>
      <span
        >{{ step.does }} {{ step.title
        }}<template v-if="step.before !== null || step.after !== null"
          >: {{ step.before ?? $t('operations.operation_steps.empty') }} →
          {{ step.after ?? $t('operations.operation_steps.empty') }}</template
        >
        <span v-if="step.message" class="soft">{{ step.message }}</span></span
      >
    </li>
  </ol>
</template>

<style scoped>
ol {
  margin: 0.6rem 0 0;
  padding: 0;
  list-style: none;
  font-size: 0.92rem;
  columns: 2;
}
li {
  display: grid;
  grid-template-columns: 6.5rem 1fr;
  break-inside: avoid;
}
.state {
  color: var(--good);
  font-weight: 600;
}
.planned .state,
.running .state,
.left .state,
.undone .state {
  color: var(--soft);
}
.failed .state,
.stopped .state {
  color: var(--alarm);
}
@media (max-width: 640px) {
  ol {
    columns: 1;
  }
}
</style>
