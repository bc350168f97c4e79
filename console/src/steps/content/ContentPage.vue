<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef, useTemplateRef } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import { groupBy } from '@/logic/groups'
import EmptyNote from '@/parts/EmptyNote.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import { itemsQuery } from './queries'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const route = useRoute()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const filters = computed(() => ({
  ...(typeof route.query.kind === 'string' ? { kind: route.query.kind } : {}),
  ...(route.query.placed === 'yes' || route.query.placed === 'no' ? { placed: route.query.placed === 'yes' } : {}),
}))
const items = useInfiniteQuery(computed(() => itemsQuery(id.value, filters.value)))
const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
const units = computed(() => groupBy(rows.value, (item) => item.unit || 'Without a unit'))
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const chooser = useTemplateRef<HTMLInputElement>('chooser')
const start = useMutation({
  mutationFn: (file: File | undefined) => {
    const path = { pairing_pk: id.value }
    if (!file) return answered(api.POST('/api/v1/pairings/{pairing_pk}/imports', { params: { path }, body: { source: 'publisher' } }))
    const form = new FormData()
    form.set('source', 'upload')
    form.set('file', file)
    return answered(api.POST('/api/v1/pairings/{pairing_pk}/imports', { params: { path }, body: form as never, bodySerializer: (body) => body as never }))
  },
  onSuccess: (made) => (jobId.value = made.job.id),
})
function upload(event: Event) {
  const input = event.target as HTMLInputElement
  if (input.files?.[0]) start.mutate(input.files[0])
  input.value = ''
}
const VIEWS = [
  ['everything', {}],
  ['graded', { kind: 'graded' }],
  ['not placed', { placed: 'no' }],
  ['placed', { placed: 'yes' }],
] as const
const isView = (query: object) => JSON.stringify(query) === JSON.stringify(Object.fromEntries(Object.entries(route.query).filter(([key]) => key === 'kind' || key === 'placed')))
</script>

<template>
  <div>
    <div class="row">
      <nav class="row views" aria-label="Which items"><RouterLink v-for="[name, query] in VIEWS" :key="name" :to="{ query }" :class="{ on: isView(query) }">{{ name }}</RouterLink></nav>
      <template v-if="about?.may_change">
        <NButton class="push" :loading="start.isPending.value || running" @click="start.mutate(undefined)">Import from {{ about.course.publisher }}</NButton>
        <NButton :disabled="running" @click="chooser?.click()">Upload a cartridge</NButton>
        <input ref="chooser" type="file" accept=".imscc,.zip" hidden aria-label="Cartridge to upload" @change="upload" />
      </template>
    </div>
    <ProblemNote :error="start.error.value" />
    <JobNote v-if="job" :job="job" doing="Importing" />
    <LoadingNote v-if="items.isPending.value" what="the items" />
    <ProblemNote v-else-if="items.error.value" :error="items.error.value" @again="items.refetch()" />
    <EmptyNote v-else-if="!rows.length" :title="Object.keys(filters).length ? 'No such items' : 'No content yet'">
      <p>{{ Object.keys(filters).length ? 'Choose another view above.' : 'Import the course from the publisher, or upload its cartridge. Nothing appears in the shell until you deploy.' }}</p>
    </EmptyNote>
    <section v-for="unit in units" :key="unit.name" :aria-label="unit.name">
      <h2>{{ unit.name }}</h2>
      <table class="plain stack">
        <thead><tr><th scope="col">Item</th><th scope="col">Kind</th><th scope="col" class="number">Points</th><th scope="col">Due</th><th scope="col">In the shell</th></tr></thead>
        <tbody>
          <tr v-for="item in unit.rows" :key="item.id">
            <td class="wide">{{ item.shown_title }}<span v-if="item.audience === 'instructor'" class="soft"> · for teachers</span></td>
            <td data-label="Kind">{{ item.kind }}</td>
            <td data-label="Points" class="number" :class="{ none: !item.points }">{{ item.points ?? '–' }}</td>
            <td data-label="Due" :class="{ none: !item.due_date && item.kind !== 'graded' }">{{ inZone(item.due_date, about?.shell.timezone ?? 'UTC') || (item.kind === 'graded' ? 'no date' : '–') }}</td>
            <td data-label="In the shell" :class="{ none: item.placed === 'no' }"><span v-if="item.placed === 'placed'" class="right-ink">{{ item.folder || 'at the top' }}{{ item.column ? ', with a column' : '' }}</span><span v-else-if="item.placed === 'failed'" class="failed">failed</span><span v-else class="soft">{{ item.placed === 'planned' ? 'under way' : '–' }}</span></td>
          </tr>
        </tbody>
      </table>
    </section>
    <NButton v-if="items.hasNextPage.value" @click="items.fetchNextPage()">Show more</NButton>
  </div>
</template>

<style scoped>
section { margin-top: 1.2rem; }
.views a { padding: 0.2rem 0.7rem; border-radius: 999px; text-decoration: none; border: 1px solid var(--rule); color: var(--ink); }
.views a.on { background: var(--both-wash); border-color: var(--both); font-weight: 600; }
table { table-layout: fixed; }
th:nth-child(2) { width: 8%; }
th:nth-child(3) { width: 8%; }
th:nth-child(4) { width: 14%; }
th:nth-child(5) { width: 32%; }
.failed { color: var(--alarm); font-weight: 600; }
</style>
