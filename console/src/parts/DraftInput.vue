<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { ref } from 'vue'

/** An input that keeps what is being typed while what is around it is drawn again. */
defineProps<{
  value?: string
  label: string
  placeholder?: string
  maxlength?: number
  inputmode?: 'decimal' | 'text'
}>()
const emit = defineEmits<{ change: [value: string] }>()
const typed = ref<string>()
function leave() {
  if (typed.value !== undefined) emit('change', typed.value)
  typed.value = undefined
}
</script>

<template>
  <NInput
    size="small"
    :value="typed ?? value ?? ''"
    :placeholder="placeholder ?? ''"
    :maxlength="maxlength"
    :input-props="{ 'aria-label': label, inputmode }"
    @update:value="typed = $event"
    @change="leave"
  />
</template>
