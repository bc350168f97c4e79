<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import ScoreMatrix from '@/figures/ScoreMatrix.vue'
import { inZone } from '@/logic/dates'
import { kindOf } from '@/logic/kinds'
import EmptyNote from '@/parts/EmptyNote.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import KindTag from '@/parts/KindTag.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import FindingList from './FindingList.vue'
import { findingsQuery, latestComparisonQuery } from './queries'

const LOUDEST = ['alarm', 'left', 'right', 'both', 'quiet']
const FILTERS = ['kind', 'scope', 'side', 'item', 'learner'] as const
const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const route = useRoute()
const router = useRouter()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: comparison, isPending, error, refetch } = useQuery(computed(() => latestComparisonQuery(id.value)))
const filters = computed(() => Object.fromEntries(FILTERS.flatMap((name) => (typeof route.query[name] === 'string' ? [[name, route.query[name]]] : []))) as Record<string, string>)
const findings = useInfiniteQuery(computed(() => ({ ...findingsQuery(id.value, comparison.value?.id ?? '', filters.value), enabled: Boolean(comparison.value) })))
const rows = computed(() => findings.data.value?.pages.flatMap((page) => page.results) ?? [])
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const compare = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/pairings/{pairing_pk}/comparisons', { params: { path: { pairing_pk: id.value } } })),
  onSuccess: (made) => (jobId.value = made.job.id),
})
const agree = computed(() => comparison.value?.summary?.kinds.agree ?? 0)
const apart = computed(() => (comparison.value?.summary?.cells ?? 0) - agree.value)
const causes = computed(() => {
  const summary = comparison.value?.summary
  if (!summary) return []
  const all = [...Object.entries(summary.kinds).filter(([kind]) => kind !== 'agree'), ...Object.entries(summary.others)]
  return all.sort(([a], [b]) => LOUDEST.indexOf(kindOf(a).tone) - LOUDEST.indexOf(kindOf(b).tone))
})
const show = (query: Record<string, string>) => router.push({ query })
const filtered = computed(() => Object.keys(filters.value).length > 0)
</script>

<template>
  <LoadingNote v-if="isPending" what="the last comparison" />
  <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
  <div v-else>
    <div class="row">
      <p v-if="comparison?.summary" class="headline"><strong>{{ apart }} of {{ comparison.summary.cells }} scores do not agree.</strong> <span class="soft">{{ agree }} do; {{ comparison.summary.learners }} learners, {{ comparison.summary.columns }} columns, compared {{ inZone(comparison.at, about?.shell.timezone ?? 'UTC') }}.</span></p>
      <NButton class="push" type="primary" :loading="running || compare.isPending.value" @click="compare.mutate()">Compare now</NButton>
    </div>
    <ProblemNote :error="compare.error.value" />
    <JobNote v-if="job && job.state !== 'done'" :job="job" doing="Comparing" />
    <EmptyNote v-if="!comparison" title="Not compared yet"><p>A comparison reads both sides now and changes nothing.</p></EmptyNote>
    <template v-else>
      <nav class="row causes" aria-label="Findings by cause">
        <RouterLink v-for="[kind, count] in causes" :key="kind" :to="{ query: { kind } }" :class="{ on: filters.kind === kind }"><KindTag :code="kind" :count="count" /></RouterLink>
        <RouterLink v-if="filtered" :to="{ query: {} }">show all</RouterLink>
      </nav>
      <div class="two">
        <section v-if="comparison.matrix && comparison.matrix.items.length" aria-label="The whole class">
          <ScoreMatrix :matrix="comparison.matrix" :chosen="filters" @choose="(item, learner) => show({ item, learner })" />
        </section>
        <section aria-labelledby="findings">
          <h2 id="findings">{{ filtered ? 'Findings chosen' : 'All findings' }}</h2>
          <LoadingNote v-if="findings.isPending.value" what="the findings" />
          <ProblemNote v-else-if="findings.error.value" :error="findings.error.value" />
          <EmptyNote v-else-if="!rows.length" :title="filtered ? 'None of this kind' : 'Both sides agree in everything'"><p>Compare again after the next due date.</p></EmptyNote>
          <FindingList v-else :findings="rows" />
          <NButton v-if="findings.hasNextPage.value" :loading="findings.isFetchingNextPage.value" @click="findings.fetchNextPage()">Show more</NButton>
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.headline { font-size: 1.1rem; margin: 0; }
.causes { margin: 0.9rem 0; gap: 0.45rem; }
.causes a { text-decoration: none; border-radius: 999px; }
.causes a.on { outline: 3px solid var(--both); }
.two { display: grid; grid-template-columns: minmax(0, 1fr) minmax(0, 1fr); gap: 1.6rem; align-items: start; }
@media (max-width: 1000px) { .two { grid-template-columns: minmax(0, 1fr); } }
</style>
