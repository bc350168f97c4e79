<script setup lang="ts" generic="Values extends object">
import { NButton } from 'naive-ui/es/button'
import { NForm, NFormItem } from 'naive-ui/es/form'
import { NInput } from 'naive-ui/es/input'
import { reactive } from 'vue'
import { type Field, type Held, readForm, textsOf } from './fieldForm'
import ProblemNote from './ProblemNote.vue'

/** A form of texts: each field by the name that the values have, with what is there already. */
const props = defineProps<{
  fields: readonly Field<Values>[]
  values?: Held<Values>
  action: string
  busy: boolean
  error: Error | null
  prefix: string
}>()
const emit = defineEmits<{ save: [values: Values] }>()
const given = reactive(textsOf(props.fields, props.values))
const missing = reactive<Record<string, boolean>>({})
function save() {
  const read = readForm(props.fields, given, props.values)
  for (const field of props.fields) missing[field.name] = read.missing.includes(field.name)
  const [first] = read.missing
  if (first === undefined) emit('save', read.values)
  else document.getElementById(`${props.prefix}-${first}`)?.focus()
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
