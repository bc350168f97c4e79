<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { ref, toRef } from 'vue'
import AfterReading from '@/parts/AfterReading.vue'
import EmptyNote from '@/parts/EmptyNote.vue'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import CauseBar from './CauseBar.vue'
import CellStory from './CellStory.vue'
import ClassPictures from './ClassPictures.vue'
import ComparisonVerdict from './ComparisonVerdict.vue'
import FindingList from './FindingList.vue'
import GivenGradebook from './GivenGradebook.vue'
import type { Wanted } from './remedies'
import SettlementList from './SettlementList.vue'
import SettlePanel from './SettlePanel.vue'
import { useComparing } from './useComparing'
import { useFindings } from './useFindings'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { about, zone, comparison, reading, mayAct, jobId, job, running, compare } = useComparing(id)
const { filters, filtered, cell, view, findings, rows, narrow, choose } = useFindings(
  id,
  comparison,
)
const wanted = ref<Wanted>()
const settledNow = () => {
  const done = wanted.value !== undefined
  wanted.value = undefined
  if (done) compare.mutate() // what was settled is gone from the list only once both sides were read again
}
</script>

<template>
  <AfterReading :reading="reading" :what="$t('reconcile.reconcile.the_last_comparison')">
    <div>
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
        <div class="halves">
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
            <AfterReading
              :reading="findings"
              :what="$t('reconcile.reconcile.the_findings')"
              :none="
                !rows.length &&
                (cell
                  ? $t('reconcile.reconcile.this_cell_agrees')
                  : filtered
                    ? $t('reconcile.reconcile.none_of_this_kind')
                    : $t('reconcile.reconcile.nothing_is_open'))
              "
              ><template #none
                ><p v-if="!filtered">
                  {{ $t('reconcile.reconcile.what_stands_in_the_gradebook') }}
                </p></template
              >
              <FindingList
                :findings="rows"
                :zone="zone"
                :may-act="mayAct"
                @settle="wanted = $event"
              />
            </AfterReading>
            <NButton
              v-if="findings.hasNextPage.value"
              :loading="findings.isFetchingNextPage.value"
              @click="findings.fetchNextPage()"
              >{{ $t('reconcile.reconcile.show_more') }}</NButton
            >
            <SettlementList
              v-if="about"
              :pairing="id"
              :zone="zone"
              :may-change="about.may_change"
            />
          </section>
        </div>
      </template>
    </div>
  </AfterReading>
</template>
