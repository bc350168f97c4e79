<script setup lang="ts">
import { NUpload, type UploadFileInfo } from 'naive-ui/es/upload'
import { NProgress } from 'naive-ui/es/progress'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { importsQuery } from './queries'
import { sendPackage } from './upload'
import { t } from '@/words'

const props = defineProps<{
  pairing: string
  publisher: string
  zone: string
  mayChange: boolean
}>()
const id = toRef(props, 'pairing')
const router = useRouter()
const client = useQueryClient()
const imports = useQuery(computed(() => importsQuery(id.value)))
const jobId = ref<string>()
const made = ref('')
const { job, running } = useJob(jobId, id)
const sent = ref(-1)
const start = useMutation({
  mutationFn: async (file: File | undefined) => {
    const path = { pairing_pk: id.value }
    if (!file)
      return answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports', {
          params: { path },
          body: { source: 'publisher' },
        }),
      )
    sent.value = 0
    const package_ = await sendPackage(id.value, file, (share) => (sent.value = share))
    return answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports', {
        params: { path },
        body: { source: 'upload', package: package_.id },
      }),
    )
  },
  onSuccess: (begun) => {
    jobId.value = begun.job.id
    made.value = begun.id
    client.invalidateQueries({ queryKey: ['pairing', id.value, 'imports'] })
  },
  onSettled: () => (sent.value = -1),
})
function upload({ file }: { file: UploadFileInfo }) {
  if (file.file) start.mutate(file.file)
}
const STAGES: Record<string, string> = {
  queued: t('content.imports.waits'),
  reading: t('content.imports.being_read'),
  checked: t('content.imports.read_and_checked'),
  importing: t('content.imports.being_brought_in'),
  done: t('content.imports.brought_in'),
}
const SOURCES = computed<Record<string, string>>(() => ({
  publisher: t('content.imports.from', { publisher: props.publisher }),
  catalogue: t('content.imports.the_catalogue_of', { publisher: props.publisher }),
  upload: t('content.imports.uploaded'),
}))
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
    <p v-if="imports.data.value && !imports.data.value.results.length && !job" class="soft">
      {{ $t('content.imports.none_yet_a_cartridge_is') }}
    </p>
    <ul v-if="imports.data.value?.results.length">
      <li v-for="each in imports.data.value.results.slice(0, 5)" :key="each.id" class="row">
        <RouterLink :to="{ name: 'import', params: { pairing: id, import: each.id } }">{{
          each.title || each.filename || $t('content.imports.unnamed')
        }}</RouterLink>
        <span class="soft">{{ SOURCES[each.source] }}, {{ inZone(each.made_at, zone) }}</span>
        <span class="push">{{
          each.job.state === 'failed'
            ? $t('content.imports.could_not_be_read')
            : each.job.state === 'cancelled'
              ? $t('content.imports.stopped')
              : STAGES[each.stage]
        }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.upload {
  width: auto;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0.4rem 0 0;
}
li {
  padding: 0.3rem 0;
  border-top: 1px solid var(--rule);
}
h2 {
  margin: 0;
}
</style>
