<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import CauseBar from './CauseBar.vue'
import CellStory from './CellStory.vue'
import ClassPictures from './ClassPictures.vue'
import ComparisonVerdict from './ComparisonVerdict.vue'
import FindingList from './FindingList.vue'
import GivenGradebook from './GivenGradebook.vue'
import { latestComparisonQuery } from './queries'
import type { Wanted } from './remedies'
import SettlementList from './SettlementList.vue'
import SettlePanel from './SettlePanel.vue'
import { useFindings } from './useFindings'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const {
  data: comparison,
  isPending,
  error,
  refetch,
} = useQuery(computed(() => latestComparisonQuery(id.value)))
// What a file was compared with is not written to the gradebook.
const mayAct = computed(() => Boolean(about.value) && !comparison.value?.file)
const { filters, filtered, cell, view, findings, rows, narrow, choose } = useFindings(
  id,
  comparison,
)
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
      <CauseBar
        :pairing="id"
        :comparison="comparison"
        :filters="filters"
        :filtered="filtered"
        :narrow="narrow"
      />
      <div class="two">
        <section :aria-label="$t('reconcile.reconcile.the_whole_class')">
          <ClassPictures
            :pairing="id"
            :comparison="comparison"
            :filters="filters"
            :view="view"
            :zone="zone"
            :may-change="about?.may_change ?? false"
            @choose="choose"
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
  .two {
    display: block;
  }
}
</style>
