<script setup lang="ts" generic="V extends string | number | boolean | null">
import { NSelect, type SelectOption } from 'naive-ui/es/select'
import { computed, nextTick, onMounted, onUpdated, ref, useId } from 'vue'

/**
 * One of several, by the library's select; what it does not tell assistive technology is told here:
 * that it is a combo box with a list, its name, and which option is ahead (WAI-ARIA 1.2, 5.4).
 */
interface Option {
  value: V
  label: string
  disabled?: boolean
}
const props = defineProps<{
  /** The name where no visible label is named. */
  label?: string
  /** The id of the visible label. */
  labelledby?: string
  options: readonly Option[]
  /** Options under headings, below the others. */
  groups?: readonly { label: string; key: string; children: readonly Option[] }[]
  filterable?: boolean
  /** Takes a text that is not among the options. */
  tag?: boolean
  clearable?: boolean
  disabled?: boolean
  loading?: boolean
  placeholder?: string
  size?: 'small' | 'medium'
}>()
const value = defineModel<V | null>('value')
const emit = defineEmits<{ chosen: [value: V] }>()
const id = useId()
const root = ref<InstanceType<typeof NSelect>>()
const shown = ref(false)

const box = () =>
  (root.value?.$el as HTMLElement | undefined)?.querySelector<HTMLElement>(
    props.filterable ? 'input' : '.n-base-selection-label',
  )
function describe() {
  const element = box()
  if (!element) return
  element.setAttribute('role', 'combobox')
  element.setAttribute('aria-haspopup', 'listbox')
  element.setAttribute('aria-expanded', String(shown.value))
  if (props.labelledby) element.setAttribute('aria-labelledby', props.labelledby)
  else if (props.label) element.setAttribute('aria-label', props.label)
  if (props.disabled) element.setAttribute('aria-disabled', 'true')
  else element.removeAttribute('aria-disabled')
  if (shown.value) element.setAttribute('aria-controls', `${id}-list`)
  else element.removeAttribute('aria-controls')
  const ahead = shown.value
    ? document.querySelector(`#${CSS.escape(`${id}-list`)} .n-base-select-option--pending`)
    : null
  if (ahead?.id) element.setAttribute('aria-activedescendant', ahead.id)
  else element.removeAttribute('aria-activedescendant')
}
const later = () => nextTick(describe)
onMounted(describe)
onUpdated(describe)
// The library takes texts and numbers only; ours may also be yes, no, or nothing.
const told = (option: Option): SelectOption => ({ ...option, value: String(option.value) })
const listed = computed<SelectOption[]>(() => [
  ...props.options.map(told),
  ...(props.groups ?? []).map(
    ({ label, key, children }) =>
      ({ type: 'group', label, key, children: children.map(told) }) as SelectOption,
  ),
])
const every = computed(() => [
  ...props.options,
  ...(props.groups ?? []).flatMap((group) => group.children),
])
const held = computed(() => {
  const known = every.value.find((option) => option.value === value.value)
  return known || (props.tag && value.value) ? String(value.value) : null
})
const nodeProps = (option: object) => nodeOf(option as SelectOption)
const nodeOf = (option: SelectOption) => ({
  role: 'option',
  id: `${id}-${String(option.value).replaceAll(/\W/g, '_')}`,
  'aria-selected': option.value === held.value,
})
function choose(text: string | null) {
  const known = every.value.find((option) => String(option.value) === text)
  const now = known ? known.value : (text as V)
  value.value = now
  emit('chosen', now)
}
</script>

<template>
  <NSelect
    ref="root"
    v-model:show="shown"
    :value="held"
    :options="listed"
    :filterable="filterable"
    :tag="tag"
    :clearable="clearable"
    :disabled="disabled"
    :loading="loading"
    :placeholder="placeholder ?? ''"
    :size="size ?? 'small'"
    :consistent-menu-width="false"
    :menu-props="
      {
        id: `${id}-list`,
        role: 'listbox',
        'aria-label': label,
        'aria-labelledby': labelledby,
      } as object
    "
    :node-props="nodeProps"
    @update:value="choose"
    @update:show="later"
    @keyup="later"
  />
</template>
