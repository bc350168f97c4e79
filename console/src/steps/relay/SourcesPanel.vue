<script setup lang="ts">
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

/** Where scores come from beside the publisher's reports, when a wait is too long, and whether learners see the columns. */
const props = defineProps<{
  pairing: string
  setting: Schemas['RelaySetting']
  zone: string
  mayChange: boolean
}>()
const INTERVALS: [number, string][] = [
  [0, 'the publisher reports each score'],
  [15, 'read every 15 minutes too'],
  [60, 'read every hour too'],
  [360, 'read every six hours too'],
  [1440, 'read once a day too'],
]
const id = toRef(props, 'pairing')
const path = computed(() => ({ pairing_pk: id.value }))
const client = useQueryClient()
const renew = () => client.invalidateQueries({ queryKey: ['pairing', id.value, 'relay'] })
const intervals = computed<[number, string][]>(() => {
  const now = props.setting.pull_minutes ?? 0
  return INTERVALS.some(([minutes]) => minutes === now)
    ? INTERVALS
    : [...INTERVALS, [now, `read every ${now} minutes too`]]
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
      ? `${count('done')} ${show.variables.value ? 'shown to learners' : 'kept from learners'}`
      : '',
    count('unknown')
      ? `${count('unknown')} the platform shows or keeps by itself; turn them there`
      : '',
    count('failed')
      ? `${count('failed')} could not be turned: ${rows.find((row) => row.result === 'failed')!.reason}`
      : '',
  ]
    .filter(Boolean)
    .join('; ')
})
const choose = (event: Event) => {
  file.value = (event.target as HTMLInputElement).files?.[0]
  seen.value = undefined
  taken.value = ''
}
const minutes = (event: Event) =>
  Number((event.target as HTMLInputElement | HTMLSelectElement).value)
</script>

<template>
  <details class="sheet">
    <summary>
      <h2>Where scores come from</h2>
      <span class="soft"
        >{{ intervals.find(([each]) => each === (setting.pull_minutes ?? 0))?.[1]
        }}{{ setting.pulled_at ? `; last read ${inZone(setting.pulled_at, zone)}` : '' }}</span
      >
    </summary>
    <p v-if="setting.pull_trouble" class="alarm" role="status">
      The publisher could not be read: {{ setting.pull_trouble }}
    </p>
    <ProblemNote
      :error="change.error.value ?? read.error.value ?? take.error.value ?? show.error.value"
    />
    <JobNote v-if="job" :job="job" doing="Reading results" />
    <div class="row line">
      <label
        >Results
        <select
          aria-label="How results come"
          :value="setting.pull_minutes ?? 0"
          :disabled="!mayChange"
          @change="change.mutate({ pull_minutes: minutes($event) })"
        >
          <option v-for="[value, words] in intervals" :key="value" :value="value">
            {{ words }}
          </option>
        </select></label
      >
      <NButton
        v-if="mayChange"
        size="small"
        :loading="running || read.isPending.value"
        @click="read.mutate()"
        >Read them now</NButton
      >
      <label
        >Alarm when a score waits
        <input
          type="number"
          min="1"
          max="10080"
          :value="setting.alarm_minutes"
          :disabled="!mayChange"
          @change="change.mutate({ alarm_minutes: minutes($event) })"
        />
        minutes</label
      >
    </div>
    <form v-if="mayChange" class="line" @submit.prevent="seen ? take.mutate() : look.mutate()">
      <label
        >Or a file of scores from the publisher
        <input type="file" accept=".csv,.txt,.tsv,.zip" @change="choose"
      /></label>
      <LayoutField v-model="layout" :file="file" :problem="look.error.value" />
      <ProblemNote :error="look.error.value" />
      <p v-if="seen">
        {{ seen.words }} {{ seen.matched }} of {{ seen.learners }} learners are known here. They go
        by your rules, like any other report.
      </p>
      <p v-if="taken" role="status">Taken: {{ taken }}.</p>
      <NButton
        v-if="file"
        size="small"
        attr-type="submit"
        :type="seen ? 'primary' : 'default'"
        :disabled="seen?.changed === 0"
        :loading="look.isPending.value || take.isPending.value"
        >{{ seen ? `Take these ${seen.changed}` : 'Look into it first' }}</NButton
      >
    </form>
    <div v-if="mayChange" class="row line">
      <span>Columns and learners</span>
      <NButton size="small" :loading="show.isPending.value" @click="show.mutate(true)"
        >Show all columns to learners</NButton
      >
      <NButton size="small" :loading="show.isPending.value" @click="show.mutate(false)"
        >Keep all from learners</NButton
      >
      <span role="status" class="soft">{{ turned }}</span>
    </div>
  </details>
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
select,
input[type='number'] {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.15rem 0.4rem;
}
input[type='number'] {
  width: 5rem;
}
</style>
