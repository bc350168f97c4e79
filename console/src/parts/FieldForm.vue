<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { reactive } from 'vue'
import ProblemNote from './ProblemNote.vue'

export interface Field {
  name: string
  label: string
  help: string
  secret?: boolean
  list?: boolean
  optional?: boolean
}

const props = defineProps<{
  fields: readonly Field[]
  values?: Record<string, unknown>
  action: string
  busy: boolean
  error: Error | null
  prefix: string
}>()
const emit = defineEmits<{ save: [values: Record<string, string | string[]>] }>()
const given = reactive<Record<string, string>>({})
for (const field of props.fields) {
  const value = props.values?.[field.name]
  given[field.name] = field.secret
    ? ''
    : Array.isArray(value)
      ? value.join(', ')
      : String(value ?? '')
}

function save() {
  const values: Record<string, string | string[]> = {}
  for (const field of props.fields) {
    const text = (given[field.name] ?? '').trim()
    // A secret that is left empty stays as it is; so does anything optional that was never there.
    if (!text && (field.secret || (field.optional && !props.values?.[field.name]))) continue
    values[field.name] = field.list
      ? text
          .split(',')
          .map((part) => part.trim())
          .filter(Boolean)
      : text
  }
  emit('save', values)
}
</script>

<template>
  <form @submit.prevent="save">
    <div v-for="field in fields" :key="field.name" class="field">
      <label :for="`${prefix}-${field.name}`"
        >{{ field.label }}<span v-if="field.optional" class="soft"> (if there is one)</span></label
      >
      <NInput
        v-model:value="given[field.name]"
        size="small"
        placeholder=""
        :type="field.secret ? 'password' : 'text'"
        :input-props="{
          id: `${prefix}-${field.name}`,
          autocomplete: 'off',
          'aria-describedby': `${prefix}-${field.name}-help`,
        }"
      />
      <p :id="`${prefix}-${field.name}-help`" class="soft help">{{ field.help }}</p>
    </div>
    <ProblemNote :error="error" />
    <NButton type="primary" attr-type="submit" :loading="busy">{{ action }}</NButton>
  </form>
</template>

<style scoped>
.field {
  margin-bottom: 0.5rem;
}
label {
  font-weight: 600;
  font-size: 0.9rem;
}
.help {
  font-size: 0.85rem;
  margin: 0.1rem 0 0;
}
form .n-button {
  margin-top: 0.5rem;
}
</style>
