<script setup lang="ts">
import { NInputNumber } from 'naive-ui/es/input-number'
import LabeledField from '@/parts/LabeledField.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import ColumnViews from './ColumnViews.vue'
import ScoreFile from './ScoreFile.vue'
import { useSources } from './useSources'

/** Where scores come from beside the publisher's reports, when a wait is too long, and whether learners see the columns. */
const props = defineProps<{
  pairing: string
  setting: Schemas['RelaySetting']
  zone: string
  mayChange: boolean
}>()
const INTERVALS: [number, string][] = [
  [0, t('relay.sources.the_publisher_reports_each_score')],
  [15, t('relay.sources.read_every_15_minutes_too')],
  [60, t('relay.sources.read_every_hour_too')],
  [360, t('relay.sources.read_every_six_hours_too')],
  [1440, t('relay.sources.read_once_a_day_too')],
]
const id = toRef(props, 'pairing')
const { change, job, running, read } = useSources(id)
const intervals = computed<[number, string][]>(() => {
  const now = props.setting.pull_minutes ?? 0
  return INTERVALS.some(([minutes]) => minutes === now)
    ? INTERVALS
    : [...INTERVALS, [now, t('relay.sources.read_every_minutes_too', { now })]]
})
</script>

<template>
  <MoreBelow sheet :title="$t('relay.sources.where_scores_come_from')">
    <template #title>
      <h2>{{ $t('relay.sources.where_scores_come_from') }}</h2>
      <span class="soft"
        >{{ intervals.find(([each]) => each === (setting.pull_minutes ?? 0))?.[1]
        }}{{
          setting.pulled_at
            ? $t('relay.sources.last_read', { pulled_at: inZone(setting.pulled_at, zone) })
            : ''
        }}</span
      >
    </template>
    <p v-if="setting.pull_trouble" class="alarm" role="status">
      {{ $t('relay.sources.the_publisher_could_not_be', { pull_trouble: setting.pull_trouble }) }}
    </p>
    <ProblemNote :error="change.error.value ?? read.error.value" />
    <JobNote v-if="job" :job="job" :doing="$t('relay.sources.reading_results')" />
    <div class="row line">
      <LabeledField :label="$t('relay.sources.results')">
        <ChooseOne
          :value="setting.pull_minutes ?? 0"
          @chosen="change.mutate({ pull_minutes: $event })"
          :label="$t('relay.sources.how_results_come')"
          :disabled="!mayChange"
          :options="[...intervals.map(([value, words]) => ({ value: value, label: words }))]"
        />
      </LabeledField>
      <NButton
        v-if="mayChange"
        size="small"
        :loading="running || read.isPending.value"
        @click="read.mutate()"
        >{{ $t('relay.sources.read_them_now') }}</NButton
      >
      <LabeledField :label="$t('relay.sources.alarm_when_a_score_waits')">
        <NInputNumber
          placeholder=""
          :value="setting.alarm_minutes"
          size="small"
          :min="1"
          :max="10080"
          :show-button="false"
          :disabled="!mayChange"
          :update-value-on-input="false"
          :input-props="{ 'aria-label': $t('relay.sources.alarm_when_a_score_waits') }"
          @update:value="(now) => now && change.mutate({ alarm_minutes: now })"
          ><template #suffix>{{ $t('relay.sources.minutes') }}</template></NInputNumber
        >
      </LabeledField>
    </div>
    <ScoreFile v-if="mayChange" class="line" :pairing="id" />
    <div v-if="mayChange" class="line"><ColumnViews :pairing="id" /></div>
  </MoreBelow>
</template>

<style scoped>
h2 {
  display: inline;
  font-size: 1.08rem;
}
.sheet {
  margin-top: 0.8rem;
}
.line {
  margin-top: 0.8rem;
}
.alarm {
  color: var(--alarm);
}
</style>
