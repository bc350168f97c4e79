<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, toRef, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { itemsQuery, outlineQuery } from '@/steps/content/queries'
import { pairingQuery } from '@/steps/pair/queries'
import DestinationList from './DestinationList.vue'
import ItemChooser from './ItemChooser.vue'
import PlanBar from './PlanBar.vue'

type Undated = 'ask' | 'column' | 'link'
const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const items = useInfiniteQuery(computed(() => itemsQuery(id.value, {})))
watch(
  () => items.hasNextPage.value && !items.isFetchingNextPage.value,
  (more) => more && items.fetchNextPage(),
)
const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results).filter((item) => item.kind === 'graded' || item.kind === 'practice') ?? [])
const { data: outline, error: outlineError, isPending: outlinePending } = useQuery(computed(() => outlineQuery(id.value)))
const chosen = ref<string[]>([])
const folder = ref('')
const undated = ref<Undated>('ask')
const plan = ref<Schemas['Plan']>()
const body = computed(() => ({ items: rows.value.map((item) => item.id).filter((item) => chosen.value.includes(item)), folder: folder.value, undated: undated.value }))
const path = computed(() => ({ pairing_pk: id.value }))

const look = useMutation({
  mutationFn: async () => (await answered(api.POST('/api/v1/pairings/{pairing_pk}/rollouts', { params: { path: path.value }, body: { ...body.value, dry_run: true } }))) as unknown as Schemas['Plan'],
  onSuccess: (made) => (plan.value = made),
})
let waiting: ReturnType<typeof setTimeout> | undefined
watch(body, (now) => {
  clearTimeout(waiting)
  plan.value = undefined
  if (now.items.length) waiting = setTimeout(() => look.mutate(), 250)
})
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const deploy = useMutation({
  mutationFn: async () => (await answered(api.POST('/api/v1/pairings/{pairing_pk}/rollouts', { params: { path: path.value }, body: { ...body.value, dry_run: false } }))) as unknown as Schemas['Rollout'],
  onSuccess: (made) => {
    jobId.value = made.job.id
    chosen.value = []
  },
})
</script>

<template>
  <LoadingNote v-if="items.isPending.value" what="the items" />
  <ProblemNote v-else-if="items.error.value" :error="items.error.value" />
  <EmptyNote v-else-if="!rows.length" title="Nothing to deploy yet">
    <p><RouterLink :to="{ name: 'content', params: { pairing: id } }">Import the course's content</RouterLink> first.</p>
  </EmptyNote>
  <div v-else>
    <JobNote v-if="job" :job="job" doing="Deploying" />
    <div class="trees">
      <section class="left-tree" aria-labelledby="from"><h2 id="from"><span class="left-ink">Homework course</span>: choose items</h2><ItemChooser v-model="chosen" :items="rows" :zone="about?.shell.timezone ?? 'UTC'" /></section>
      <section class="right-tree" aria-labelledby="into">
        <h2 id="into"><span class="right-ink">Shell</span>: choose where</h2>
        <LoadingNote v-if="outlinePending" what="the shell's outline" />
        <ProblemNote v-else-if="outlineError" :error="outlineError" />
        <DestinationList v-else v-model="folder" :outline="outline ?? []" />
      </section>
    </div>
    <PlanBar v-model:undated="undated" :chosen="body.items.length" :plan="plan" :error="deploy.error.value ?? look.error.value" :busy="deploy.isPending.value || running" :may-change="about?.may_change ?? false" @deploy="deploy.mutate()" />
  </div>
</template>

<style scoped>
.trees { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 1.4rem; }
.left-tree, .right-tree { background: var(--sheet); border: 1px solid var(--rule); border-radius: 12px; padding: 0.9rem 1rem; }
.left-tree { border-top: 4px solid var(--left); }
.right-tree { border-top: 4px solid var(--right); position: sticky; top: 0.6rem; align-self: start; max-height: calc(100vh - 10rem); overflow-y: auto; }
@media (max-width: 800px) { .right-tree { position: static; max-height: none; } .trees { grid-template-columns: minmax(0, 1fr); } }
</style>
