<script setup lang="ts">
import { useStorage } from '@vueuse/core'
import { NAlert } from 'naive-ui/es/alert'

/** A hint for the first time; once it was closed in this browser it does not come back. */
const props = defineProps<{ name: string }>()
const seen = useStorage<Record<string, boolean>>('vennpair.hints', {})
</script>

<template>
  <NAlert
    v-if="!seen[props.name]"
    class="hint"
    type="info"
    :show-icon="false"
    :bordered="false"
    closable
    role="note"
    @close="seen = { ...seen, [props.name]: true }"
    ><slot
  /></NAlert>
</template>

<style scoped>
.hint {
  margin: 0.6rem 0 0.9rem;
}
</style>
