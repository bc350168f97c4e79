<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { Problem } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { MENDED_BY_LAYOUT } from './sending'
import { useLayout } from './useLayout'

/** How a wide table is read: suggested by looking at it, then a person's to correct. */
const props = defineProps<{ modelValue: string; file: File | undefined; problem?: unknown }>()
const emit = defineEmits<{ 'update:modelValue': [layout: string] }>()
const offered = computed(
  () =>
    props.file &&
    (props.modelValue ||
      (props.problem instanceof Problem && MENDED_BY_LAYOUT.includes(props.problem.code))),
)
const look = useLayout((layout) => emit('update:modelValue', layout))
</script>

<template>
  <div v-if="offered && file" class="layout">
    <p v-if="!modelValue">
      {{ $t('files.layout_field.is') }} <strong>{{ file.name }}</strong>
      {{ $t('files.layout_field.a_table_with_one_row') }}
      <NButton size="small" :loading="look.isPending.value" @click="look.mutate(file)">{{
        $t('files.layout_field.look_at_it')
      }}</NButton>
    </p>
    <MoreBelow
      v-else
      :open="Boolean(problem)"
      :title="$t('files.layout_field.how_is_read', { name: file.name })"
    >
      <p>{{ $t('files.layout_field.correct_what_is_not_right') }}</p>
      <NInput
        type="textarea"
        :rows="14"
        :value="modelValue"
        placeholder=""
        :input-props="{
          'aria-label': $t('files.layout_field.correct_what_is_not_right'),
          spellcheck: false,
        }"
        @update:value="emit('update:modelValue', $event)"
      />
      <ul v-if="look.data.value?.guesses.length">
        <li v-for="guess in look.data.value.guesses" :key="guess">
          {{ $t('files.layout_field.look_at_this', { guess }) }}
        </li>
      </ul>
    </MoreBelow>
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
