<script setup lang="ts">
import { NInputNumber } from 'naive-ui/es/input-number'
import FileField from '@/parts/FileField.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import { useMutation, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import LayoutField from '@/steps/reconcile/files/LayoutField.vue'
import { asForm } from '@/steps/reconcile/files/sending'
import { t } from '@/words'

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
const path = computed(() => ({ pairing_pk: id.value }))
const client = useQueryClient()
const renew = () => client.invalidateQueries({ queryKey: ['pairing', id.value, 'relay'] })
const intervals = computed<[number, string][]>(() => {
  const now = props.setting.pull_minutes ?? 0
  return INTERVALS.some(([minutes]) => minutes === now)
    ? INTERVALS
    : [...INTERVALS, [now, t('relay.sources.read_every_minutes_too', { now })]]
})
const change = useMutation({
  mutationFn: (body: { pull_minutes?: number; alarm_minutes?: number }) =>
    answered(
      api.PATCH('/api/v1/pairings/{pairing_pk}/relay/setting', {
        params: { path: path.value },
        body,
      }),
    ),
  onSuccess: renew,
})
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const read = useMutation({
  mutationFn: () =>
    answered(api.POST('/api/v1/pairings/{pairing_pk}/pulls', { params: { path: path.value } })),
  onSuccess: (made) => (jobId.value = made.id),
})
const file = ref<File>()
const layout = ref('')
const seen = ref<Schemas['TakenFile']>()
const send = (dry: boolean) =>
  answered(
    api.POST('/api/v1/pairings/{pairing_pk}/score-files', {
      params: { path: path.value },
      ...asForm({ file: file.value, layout: layout.value, dry_run: String(dry) }),
    }),
  )
const look = useMutation({ mutationFn: () => send(true), onSuccess: (made) => (seen.value = made) })
const take = useMutation({
  mutationFn: () => send(false),
  onSuccess: (made) => {
    seen.value = undefined
    taken.value = made.words
    renew()
  },
})
const taken = ref('')
const show = useMutation({
  mutationFn: (shown: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/column-views', {
        params: { path: path.value },
        body: { placements: [], shown },
      }),
    ),
})
const turned = computed(() => {
  const rows = show.data.value ?? []
  const count = (result: string) => rows.filter((row) => row.result === result).length
  if (!rows.length) return ''
  return [
    count('done')
      ? `${count('done')} ${show.variables.value ? t('relay.sources.shown_to_learners') : t('relay.sources.kept_from_learners')}`
      : '',
    count('unknown')
      ? t('relay.sources.the_platform_shows_or_keeps', { unknown: count('unknown') })
      : '',
    count('failed')
      ? t('relay.sources.could_not_be_turned', {
          failed: count('failed'),
          reason: rows.find((row) => row.result === 'failed')!.reason,
        })
      : '',
  ]
    .filter(Boolean)
    .join('; ')
})
const choose = (chosen: File | undefined) => {
  file.value = chosen
  seen.value = undefined
  taken.value = ''
}
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
    <ProblemNote
      :error="change.error.value ?? read.error.value ?? take.error.value ?? show.error.value"
    />
    <JobNote v-if="job" :job="job" :doing="$t('relay.sources.reading_results')" />
    <div class="row line">
      <div class="field">
        <span>{{ $t('relay.sources.results') }}</span>
        <ChooseOne
          :value="setting.pull_minutes ?? 0"
          @chosen="change.mutate({ pull_minutes: $event })"
          :label="$t('relay.sources.how_results_come')"
          :disabled="!mayChange"
          :options="[...intervals.map(([value, words]) => ({ value: value, label: words }))]"
        />
      </div>
      <NButton
        v-if="mayChange"
        size="small"
        :loading="running || read.isPending.value"
        @click="read.mutate()"
        >{{ $t('relay.sources.read_them_now') }}</NButton
      >
      <div class="field">
        <span>{{ $t('relay.sources.alarm_when_a_score_waits') }}</span>
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
      </div>
    </div>
    <form v-if="mayChange" class="line" @submit.prevent="seen ? take.mutate() : look.mutate()">
      <FileField
        :label="$t('relay.sources.or_a_file_of_scores')"
        accept=".csv,.txt,.tsv,.zip"
        @chosen="choose"
      />
      <LayoutField v-model="layout" :file="file" :problem="look.error.value" />
      <ProblemNote :error="look.error.value" />
      <p v-if="seen">
        {{
          $t('relay.sources.of_learners_are_known_here', {
            words: seen.words,
            matched: seen.matched,
            learners: seen.learners,
          })
        }}
      </p>
      <p v-if="taken" role="status">{{ $t('relay.sources.taken', { taken }) }}</p>
      <NButton
        v-if="file"
        size="small"
        attr-type="submit"
        :type="seen ? 'primary' : 'default'"
        :disabled="seen?.changed === 0"
        :loading="look.isPending.value || take.isPending.value"
        >{{
          seen
            ? $t('relay.sources.take_these', { changed: seen.changed })
            : $t('relay.sources.look_into_it_first')
        }}</NButton
      >
    </form>
    <div v-if="mayChange" class="row line">
      <span>{{ $t('relay.sources.columns_and_learners') }}</span>
      <NButton size="small" :loading="show.isPending.value" @click="show.mutate(true)">{{
        $t('relay.sources.show_all_columns_to_learners')
      }}</NButton>
      <NButton size="small" :loading="show.isPending.value" @click="show.mutate(false)">{{
        $t('relay.sources.keep_all_from_learners')
      }}</NButton>
      <span role="status" class="soft">{{ turned }}</span>
    </div>
  </MoreBelow>
</template>

<style scoped>
summary {
  cursor: pointer;
}
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
form {
  display: grid;
  gap: 0.5rem;
  justify-items: start;
}
form p {
  margin: 0;
}
.alarm {
  color: var(--alarm);
}
input[type='number'] {
  width: 5rem;
}
</style>
