<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, defineAsyncComponent, ref, toRef } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import ScoreMatrix from '@/figures/ScoreMatrix.vue'
import { kindOf } from '@/logic/kinds'
import EmptyNote from '@/parts/EmptyNote.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import KindTag from '@/parts/KindTag.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import CellStory from './CellStory.vue'
import ComparisonVerdict from './ComparisonVerdict.vue'
import FindingList from './FindingList.vue'
import GivenGradebook from './GivenGradebook.vue'
import { findingsQuery, historyQuery, latestComparisonQuery } from './queries'
import ReadyPanel from './ReadyPanel.vue'
import type { Wanted } from './remedies'
import SettlementList from './SettlementList.vue'
import SettlePanel from './SettlePanel.vue'
import { t } from '@/words'

// Charts are a chunk of their own, loaded when one is looked at.
const ScoreScatter = defineAsyncComponent(() => import('@/figures/ScoreScatter.vue'))
const TrendFigure = defineAsyncComponent(() => import('./TrendFigure.vue'))

const LOUDEST = ['alarm', 'left', 'right', 'both', 'quiet']
const FILTERS = [
  'kind',
  'scope',
  'side',
  'item',
  'learner',
  'placement',
  'person',
  'kept',
  'new',
] as const
const VIEWS = {
  matrix: t('reconcile.reconcile.the_class'),
  scatter: t('reconcile.reconcile.share_against_share'),
  trend: t('reconcile.reconcile.over_time'),
  ready: t('reconcile.reconcile.ready_to_submit'),
} as const
const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const route = useRoute()
const router = useRouter()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const {
  data: comparison,
  isPending,
  error,
  refetch,
} = useQuery(computed(() => latestComparisonQuery(id.value)))
const { data: history } = useQuery(computed(() => historyQuery(id.value)))
const query = (name: string) =>
  typeof route.query[name] === 'string' ? (route.query[name] as string) : ''
const filters = computed(
  () =>
    Object.fromEntries(
      FILTERS.flatMap((name) => (query(name) ? [[name, query(name)]] : [])),
    ) as Record<string, string>,
)
const filtered = computed(() => Object.keys(filters.value).length > 0)
const cell = computed(() =>
  filters.value.placement && filters.value.person
    ? { placement: filters.value.placement, person: filters.value.person }
    : undefined,
)
// What a file was compared with is not written to the gradebook.
const mayAct = computed(() => Boolean(about.value) && !comparison.value?.file)
const view = computed(() =>
  query('view') in VIEWS ? (query('view') as keyof typeof VIEWS) : 'matrix',
)
// What is kept is shown where somebody asks for it or chose the cell; else only what is open.
const wantedFindings = computed(() =>
  filters.value.kept || cell.value ? filters.value : { ...filters.value, kept: 'false' },
)
const findings = useInfiniteQuery(
  computed(() => ({
    ...findingsQuery(id.value, comparison.value?.id ?? '', wantedFindings.value),
    enabled: Boolean(comparison.value),
  })),
)
const rows = computed(() => findings.data.value?.pages.flatMap((page) => page.results) ?? [])
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const compare = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/comparisons', {
        params: { path: { pairing_pk: id.value } },
      }),
    ),
  onSuccess: (made) => (jobId.value = made.job.id),
})
const wanted = ref<Wanted>()
const settledNow = () => {
  const done = wanted.value !== undefined
  wanted.value = undefined
  if (done) compare.mutate() // what was settled is gone from the list only once both sides were read again
}
const causes = computed(() =>
  Object.entries(comparison.value?.summary?.open ?? {}).sort(
    ([a], [b]) => LOUDEST.indexOf(kindOf(a).tone) - LOUDEST.indexOf(kindOf(b).tone),
  ),
)
const choose = (placement: string, person: string) =>
  router.push({
    query: { ...(view.value === 'matrix' ? {} : { view: view.value }), placement, person },
  })
const keepView = (more: Record<string, string>) => ({
  query: { ...(view.value === 'matrix' ? {} : { view: view.value }), ...more },
})
const report = (as: string) =>
  `/api/v1/pairings/${id.value}/comparisons/${comparison.value?.id}/report?as=${as}`
const print = () => window.print()
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('reconcile.reconcile.the_last_comparison')" />
  <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
  <div v-else>
    <ProblemNote :error="compare.error.value" />
    <JobNote
      v-if="job && job.state !== 'done'"
      :job="job"
      :doing="$t('reconcile.reconcile.comparing')"
    />
    <EmptyNote v-if="!comparison" :title="$t('reconcile.reconcile.not_compared_yet')"
      ><p>{{ $t('reconcile.reconcile.a_comparison_reads_both_sides') }}</p>
      <NButton
        type="primary"
        :loading="running || compare.isPending.value"
        @click="compare.mutate()"
        >{{ $t('reconcile.reconcile.compare_now') }}</NButton
      ></EmptyNote
    >
    <template v-else>
      <ComparisonVerdict
        :comparison="comparison"
        :zone="zone"
        :may-act="mayAct"
        :busy="running || compare.isPending.value"
        @settle="wanted = $event"
        @compare="compare.mutate()"
      />
      <SettlePanel
        v-if="wanted && about"
        :pairing="id"
        :comparison="comparison.id"
        :wanted="wanted"
        :may-change="about.may_change"
        @close="wanted = undefined"
        @settled="settledNow"
      />
      <nav class="row causes" :aria-label="$t('reconcile.reconcile.findings_by_cause')">
        <RouterLink
          v-for="[kind, count] in causes"
          :key="kind"
          :to="keepView({ kind })"
          :class="{ on: filters.kind === kind }"
          ><KindTag :code="kind" :count="count"
        /></RouterLink>
        <RouterLink v-if="comparison.summary?.new" :to="keepView({ new: 'true' })">{{
          $t('reconcile.reconcile.new')
        }}</RouterLink>
        <RouterLink v-if="comparison.summary?.kept" :to="keepView({ kept: 'true' })">{{
          $t('reconcile.reconcile.kept_as_they_are')
        }}</RouterLink>
        <RouterLink v-if="filtered" :to="keepView({})">{{
          $t('reconcile.reconcile.show_all')
        }}</RouterLink>
        <span class="push row reports soft"
          >{{ $t('reconcile.reconcile.report') }}
          <a :href="report('html')">{{ $t('reconcile.reconcile.page') }}</a>
          <a :href="report('xlsx')">{{ $t('reconcile.reconcile.xlsx') }}</a>
          <a :href="report('csv')">{{ $t('reconcile.reconcile.csv') }}</a>
          <a :href="report('json')">{{ $t('reconcile.reconcile.json') }}</a>
          <NButton size="tiny" quaternary @click="print()">{{
            $t('reconcile.reconcile.print')
          }}</NButton></span
        >
      </nav>
      <div class="two">
        <section :aria-label="$t('reconcile.reconcile.the_whole_class')">
          <div class="row views" role="tablist" :aria-label="$t('reconcile.reconcile.pictures')">
            <RouterLink
              v-for="(label, name) in VIEWS"
              :key="name"
              role="tab"
              :aria-selected="view === name"
              :to="{ query: { ...filters, view: name } }"
              :class="{ on: view === name }"
              >{{ label }}</RouterLink
            >
          </div>
          <template v-if="comparison.matrix && comparison.matrix.items.length">
            <ScoreMatrix
              v-if="view === 'matrix'"
              :matrix="comparison.matrix"
              :chosen="filters"
              @choose="choose"
            />
            <ScoreScatter
              v-else-if="view === 'scatter'"
              :comparison="comparison"
              @choose="choose"
            />
          </template>
          <p v-else-if="view !== 'trend' && view !== 'ready'" class="soft">
            {{ $t('reconcile.reconcile.nothing_with_a_column_is') }}
          </p>
          <TrendFigure v-if="view === 'trend' && history" :history="history" :zone="zone" />
          <ReadyPanel
            v-if="view === 'ready'"
            :pairing="id"
            :may-change="about?.may_change ?? false"
          />
          <GivenGradebook v-if="view !== 'ready'" :pairing="id" @begun="jobId = $event" />
        </section>
        <section aria-labelledby="findings">
          <CellStory v-if="cell" :pairing="id" v-bind="cell" :zone="zone" />
          <h2 id="findings">
            {{
              filtered
                ? $t('reconcile.reconcile.findings_chosen')
                : $t('reconcile.reconcile.all_open_findings')
            }}
          </h2>
          <LoadingNote
            v-if="findings.isPending.value"
            :what="$t('reconcile.reconcile.the_findings')"
          />
          <ProblemNote v-else-if="findings.error.value" :error="findings.error.value" />
          <EmptyNote
            v-else-if="!rows.length"
            :title="
              cell
                ? $t('reconcile.reconcile.this_cell_agrees')
                : filtered
                  ? $t('reconcile.reconcile.none_of_this_kind')
                  : $t('reconcile.reconcile.nothing_is_open')
            "
            ><p v-if="!filtered">
              {{ $t('reconcile.reconcile.what_stands_in_the_gradebook') }}
            </p></EmptyNote
          >
          <FindingList
            v-else
            :findings="rows"
            :zone="zone"
            :may-act="mayAct"
            @settle="wanted = $event"
          />
          <NButton
            v-if="findings.hasNextPage.value"
            :loading="findings.isFetchingNextPage.value"
            @click="findings.fetchNextPage()"
            >{{ $t('reconcile.reconcile.show_more') }}</NButton
          >
          <SettlementList v-if="about" :pairing="id" :zone="zone" :may-change="about.may_change" />
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.causes {
  margin: 0.9rem 0;
  gap: 0.45rem;
}
.causes a {
  text-decoration: none;
  border-radius: 999px;
}
.causes a.on {
  outline: 3px solid var(--both);
}
.reports {
  gap: 0.5rem;
  font-size: 0.9rem;
}
.reports a {
  text-decoration: underline;
}
.reports button {
  font: inherit;
  background: none;
  border: 0;
  padding: 0;
  color: var(--both);
  text-decoration: underline;
  cursor: pointer;
}
.views {
  gap: 0.3rem;
  margin-bottom: 0.5rem;
}
.views a {
  text-decoration: none;
  color: var(--soft);
  padding: 0.1rem 0.6rem;
  border-radius: 999px;
  border: 1px solid transparent;
  font-size: 0.92rem;
}
.views a.on {
  color: var(--both);
  border-color: currentColor;
  font-weight: 600;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.6rem;
  align-items: start;
}
@media (max-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
@media print {
  .reports,
  .views {
    display: none;
  }
  .two {
    display: block;
  }
}
</style>
