<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NUpload, NUploadDragger, type UploadFileInfo } from 'naive-ui/es/upload'
import { computed, ref } from 'vue'

/** One file, chosen or dropped; it is handed on and sent by whoever asked for it. */
const props = defineProps<{
  label: string
  accept: string
  hint?: string
  /** A place to drop it on, where there is room. */
  drop?: boolean
}>()
const emit = defineEmits<{ chosen: [file: File | undefined] }>()
const list = ref<UploadFileInfo[]>([])
const name = computed(() => list.value[0]?.name)
function change(now: UploadFileInfo[]) {
  list.value = now.slice(-1)
  emit('chosen', list.value[0]?.file ?? undefined)
}
</script>

<template>
  <NUpload
    :file-list="list"
    :accept="props.accept"
    :default-upload="false"
    :show-file-list="false"
    :input-props="{ 'aria-label': label, tabindex: -1 }"
    @update:file-list="change"
  >
    <NUploadDragger v-if="drop">
      <strong>{{ name ?? label }}</strong>
      <p class="soft">{{ hint }}</p>
      <NButton size="small"
        >{{ $t('file.choose') }}<span class="sr-only">: {{ label }}</span></NButton
      >
    </NUploadDragger>
    <NButton v-else size="small">{{ name ?? label }}</NButton>
  </NUpload>
</template>

<style scoped>
p {
  margin: 0.2rem 0 0.5rem;
}
</style>
