<script setup lang="ts">
import { NUpload, type UploadFileInfo } from 'naive-ui/es/upload'
import { NProgress } from 'naive-ui/es/progress'
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { useRouter } from 'vue-router'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ImportRows from './ImportRows.vue'
import { useImports } from './useImports'

const props = defineProps<{
  pairing: string
  publisher: string
  zone: string
  mayChange: boolean
}>()
const id = toRef(props, 'pairing')
const router = useRouter()
const { imports, rows, made, job, running, sent, start } = useImports(id)
function upload({ file }: { file: UploadFileInfo }) {
  if (file.file) start.mutate(file.file)
}
const open = (which: string) =>
  router.push({ name: 'import', params: { pairing: id.value, import: which } })
</script>

<template>
  <section class="sheet" aria-labelledby="imports">
    <div class="row">
      <h2 id="imports">{{ $t('content.imports.cartridges') }}</h2>
      <template v-if="mayChange">
        <NButton
          class="push"
          :loading="start.isPending.value || running"
          @click="start.mutate(undefined)"
          >{{ $t('content.imports.import_from', { publisher }) }}</NButton
        >
        <NUpload
          class="upload"
          accept=".imscc,.zip"
          :default-upload="false"
          :show-file-list="false"
          :file-list="[]"
          :disabled="running || start.isPending.value"
          :input-props="{ 'aria-label': $t('content.imports.cartridge_to_upload'), tabindex: -1 }"
          @change="upload"
          ><NButton :disabled="running || start.isPending.value">{{
            $t('content.imports.upload_a_cartridge')
          }}</NButton></NUpload
        >
      </template>
    </div>
    <div v-if="sent >= 0" role="status">
      {{ $t('content.imports.sending_the_file_if_it', { sent: Math.round(sent * 100) }) }}
      <NProgress
        :percentage="Math.round(sent * 100)"
        :show-indicator="false"
        :aria-label="$t('content.imports.cartridge_to_upload')"
      />
    </div>
    <ProblemNote :error="start.error.value" />
    <JobNote v-if="job" :job="job" :doing="$t('content.imports.reading')" />
    <p v-if="job?.state === 'done'">
      <NButton type="primary" @click="open(made)">{{
        $t('content.imports.choose_what_to_bring_in')
      }}</NButton>
    </p>
    <p v-if="imports.data.value && !rows.length && !job" class="soft">
      {{ $t('content.imports.none_yet_a_cartridge_is') }}
    </p>
    <ImportRows :pairing="id" :publisher="publisher" :imports="rows" :zone="zone" />
  </section>
</template>

<style scoped>
.upload {
  width: auto;
}
h2 {
  margin: 0;
}
</style>
