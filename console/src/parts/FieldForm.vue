<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NForm, NFormItem } from 'naive-ui/es/form'
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
const missing = reactive<Record<string, boolean>>({})
for (const field of props.fields) {
  const value = props.values?.[field.name]
  given[field.name] = field.secret
    ? ''
    : Array.isArray(value)
      ? value.join(', ')
      : String(value ?? '')
}

const textOf = (field: Field) => (given[field.name] ?? '').trim()
/** A secret that is there already may be left empty: it stays. */
const required = (field: Field) => !field.optional && !(field.secret && props.values)
function save() {
  const values: Record<string, string | string[]> = {}
  for (const field of props.fields) {
    const text = textOf(field)
    missing[field.name] = !text && required(field)
    // A secret that is left empty stays as it is; so does anything optional that was never there.
    if (!text && (field.secret || (field.optional && !props.values?.[field.name]))) continue
    values[field.name] = field.list
      ? text
          .split(',')
          .map((part) => part.trim())
          .filter(Boolean)
      : text
  }
  const first = props.fields.find((field) => missing[field.name])
  if (first) document.getElementById(`${props.prefix}-${first.name}`)?.focus()
  else emit('save', values)
}
</script>

<template>
  <NForm size="small" :show-feedback="true" @submit.prevent="save">
    <NFormItem
      v-for="field in fields"
      :key="field.name"
      :validation-status="missing[field.name] ? 'error' : undefined"
      :label-props="{ for: `${prefix}-${field.name}` } as object"
    >
      <template #label
        >{{ field.label
        }}<span v-if="field.optional" class="soft"> {{ $t('form.optional') }}</span></template
      >
      <NInput
        v-model:value="given[field.name]"
        placeholder=""
        :type="field.secret ? 'password' : 'text'"
        :input-props="{
          id: `${prefix}-${field.name}`,
          autocomplete: 'off',
          'aria-describedby': `${prefix}-${field.name}-help`,
          'aria-invalid': missing[field.name] || undefined,
        }"
        @input="missing[field.name] = false"
      />
      <template #feedback
        ><span :id="`${prefix}-${field.name}-help`" class="soft"
          ><strong v-if="missing[field.name]" class="missing">{{ $t('form.needed') }} </strong
          >{{ field.help }}</span
        ></template
      >
    </NFormItem>
    <ProblemNote :error="error" />
    <NButton type="primary" attr-type="submit" :loading="busy">{{ action }}</NButton>
  </NForm>
</template>

<style scoped>
.n-form-item {
  margin-bottom: 0.5rem;
}
.missing {
  color: var(--alarm);
}
form > .n-button {
  margin-top: 0.5rem;
}
</style>
