<script setup lang="ts">
import { NDatePicker } from 'naive-ui/es/date-picker'
import { onMounted, onUpdated, ref } from 'vue'
import { language } from '@/words'

/**
 * A day, or a day and an hour, of the course: the value is its wall clock, without a zone
 * (2027-03-20 or 2027-03-20T23:59), whatever the zone of who enters it.
 */
const props = defineProps<{
  kind: 'date' | 'datetime'
  label: string
  disabled?: boolean
  clearable?: boolean
}>()
const value = defineModel<string | null>('value')
const root = ref<InstanceType<typeof NDatePicker>>()
// The library's input has a role and no name of its own.
function describe() {
  const input = (root.value?.$el as HTMLElement | undefined)?.querySelector('input')
  input?.setAttribute('aria-label', props.label)
}
onMounted(describe)
onUpdated(describe)
const day = language() === 'en' ? 'MMM d, yyyy' : 'd MMM yyyy'
const hour = language() === 'en' ? ', h:mm a' : ', HH:mm'
</script>

<template>
  <NDatePicker
    ref="root"
    v-model:formatted-value="value"
    :type="kind"
    size="small"
    :value-format="kind === 'date' ? 'yyyy-MM-dd' : `yyyy-MM-dd'T'HH:mm`"
    :format="kind === 'date' ? day : day + hour"
    :disabled="disabled"
    :clearable="clearable"
    placeholder=""
    update-value-on-close
  />
</template>
