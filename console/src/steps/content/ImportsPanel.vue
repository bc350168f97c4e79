<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef, useTemplateRef } from 'vue'
import { RouterLink, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { importsQuery } from './queries'
import { sendPackage } from './upload'

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
const chooser = useTemplateRef<HTMLInputElement>('chooser')
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
function upload(event: Event) {
  const input = event.target as HTMLInputElement
  if (input.files?.[0]) start.mutate(input.files[0])
  input.value = ''
}
const STAGES: Record<string, string> = {
  queued: 'waits',
  reading: 'being read',
  checked: 'read and checked',
  importing: 'being brought in',
  done: 'brought in',
}
const SOURCES = computed<Record<string, string>>(() => ({
  publisher: `from ${props.publisher}`,
  catalogue: `the catalogue of ${props.publisher}`,
  upload: 'uploaded',
}))
const open = (which: string) =>
  router.push({ name: 'import', params: { pairing: id.value, import: which } })
</script>

<template>
  <section class="sheet" aria-labelledby="imports">
    <div class="row">
      <h2 id="imports">Cartridges</h2>
      <template v-if="mayChange">
        <NButton
          class="push"
          :loading="start.isPending.value || running"
          @click="start.mutate(undefined)"
          >Import from {{ publisher }}</NButton
        >
        <NButton :disabled="running || start.isPending.value" @click="chooser?.click()"
          >Upload a cartridge</NButton
        >
        <input
          ref="chooser"
          type="file"
          accept=".imscc,.zip"
          hidden
          aria-label="Cartridge to upload"
          @change="upload"
        />
      </template>
    </div>
    <p v-if="sent >= 0" role="status">
      Sending the file: {{ Math.round(sent * 100) }} %. If it breaks off, choose the same file
      again; it goes on where it was.
    </p>
    <ProblemNote :error="start.error.value" />
    <JobNote v-if="job" :job="job" doing="Reading" />
    <p v-if="job?.state === 'done'">
      <NButton type="primary" @click="open(made)">Choose what to bring in</NButton>
    </p>
    <p v-if="imports.data.value && !imports.data.value.results.length && !job" class="soft">
      None yet. A cartridge is read and explained first; nothing appears in the shell until you
      choose it.
    </p>
    <ul v-if="imports.data.value?.results.length">
      <li v-for="each in imports.data.value.results.slice(0, 5)" :key="each.id" class="row">
        <RouterLink :to="{ name: 'import', params: { pairing: id, import: each.id } }">{{
          each.title || each.filename || 'unnamed'
        }}</RouterLink>
        <span class="soft">{{ SOURCES[each.source] }}, {{ inZone(each.made_at, zone) }}</span>
        <span class="push">{{
          each.job.state === 'failed'
            ? 'could not be read'
            : each.job.state === 'cancelled'
              ? 'stopped'
              : STAGES[each.stage]
        }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
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
