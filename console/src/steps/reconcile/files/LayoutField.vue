<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { answered, api, Problem } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { asForm, MENDED_BY_LAYOUT } from './sending'

/** How a wide table is read: suggested by looking at it, then a person's to correct. */
const props = defineProps<{ modelValue: string; file: File | undefined; problem?: unknown }>()
const emit = defineEmits<{ 'update:modelValue': [layout: string] }>()
const offered = computed(
  () =>
    props.file &&
    (props.modelValue ||
      (props.problem instanceof Problem && MENDED_BY_LAYOUT.includes(props.problem.code))),
)
const look = useMutation({
  mutationFn: (file: File) =>
    answered(api.POST('/api/v1/file-comparisons/layout', asForm({ file }))),
  onSuccess: (found) => emit('update:modelValue', found.layout),
})
</script>

<template>
  <div v-if="offered && file" class="layout">
    <p v-if="!modelValue">
      Is <strong>{{ file.name }}</strong> a table with one row a learner and one column an item?
      Venn Pair can look at it and say how it would read it.
      <NButton size="small" :loading="look.isPending.value" @click="look.mutate(file)"
        >Look at it</NButton
      >
    </p>
    <details v-else :open="Boolean(problem)">
      <summary>How {{ file.name }} is read</summary>
      <label for="layout">Correct what is not right, then compare</label>
      <textarea
        id="layout"
        rows="14"
        spellcheck="false"
        :value="modelValue"
        @input="emit('update:modelValue', ($event.target as HTMLTextAreaElement).value)"
      ></textarea>
      <ul v-if="look.data.value?.guesses.length">
        <li v-for="guess in look.data.value.guesses" :key="guess">Look at this: {{ guess }}.</li>
      </ul>
    </details>
    <ProblemNote :error="look.error.value" />
  </div>
</template>

<style scoped>
.layout {
  width: 100%;
}
summary {
  cursor: pointer;
  color: var(--both);
}
textarea {
  width: 100%;
  font:
    13px/1.45 ui-monospace,
    'DejaVu Sans Mono',
    monospace;
  color: var(--ink);
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 8px;
  padding: 0.5rem 0.7rem;
}
</style>
