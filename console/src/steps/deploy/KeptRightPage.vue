<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import DriftFigure from '@/figures/DriftFigure.vue'
import { inZone } from '@/logic/dates'
import { groupBy } from '@/logic/groups'
import EmptyNote from '@/parts/EmptyNote.vue'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import LearnerView from './LearnerView.vue'
import { driftQuery } from './queries'
import RolloutNote from './RolloutNote.vue'
import TravelTable from './TravelTable.vue'

type Way = 'ask' | 'follow' | 'keep'
const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const path = computed(() => ({ pairing_pk: id.value }))
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: watch, error, isPending } = useQuery(computed(() => driftQuery(id.value)))
const groups = computed(() => groupBy(watch.value?.drifts ?? [], (each) => each.side))
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const look = useMutation({
  mutationFn: () =>
    answered(api.POST('/api/v1/pairings/{pairing_pk}/drifts', { params: { path: path.value } })),
  onSuccess: (made) => (jobId.value = made.id),
})
const begun = ref<Schemas['WholeRollout'][]>([])
const mend = useMutation({
  mutationFn: async ({ drifts, way }: { drifts: string[]; way: 'follow' | 'keep' }) =>
    (
      await answered(
        api.POST('/api/v1/pairings/{pairing_pk}/drifts/mend', {
          params: { path: path.value },
          body: { drifts, way },
        }),
      )
    ).rollout as unknown as Schemas['WholeRollout'] | null,
  onSuccess: (made) => {
    if (made) begun.value = [made, ...begun.value]
    client.invalidateQueries({ queryKey: ['pairing', id.value] })
  },
})
const choose = useMutation({
  mutationFn: (way: Way) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/drifts/way', {
        params: { path: path.value },
        body: { way },
      }),
    ),
  onSuccess: () => client.invalidateQueries(driftQuery(id.value)),
})
const every = computed(() => watch.value?.drifts.map((each) => each.id) ?? [])
const side = {
  shell: ['In the shell', 'Put back as deployed', "Keep the shell's"],
  publisher: ['At the publisher', 'Bring into the shell', 'Leave the shell as it is'],
} as const
const words = (name: string) => side[name as 'shell' | 'publisher']
</script>

<template>
  <LoadingNote v-if="isPending" what="what was found" />
  <ProblemNote v-else-if="error" :error="error" />
  <template v-else-if="watch">
    <JobNote v-if="job && (running || job.state !== 'done')" :job="job" doing="Looking for drift" />
    <RolloutNote v-for="rollout in begun" :key="rollout.id" :rollout="rollout" />
    <ProblemNote :error="look.error.value ?? mend.error.value ?? choose.error.value" />
    <div class="row tools">
      <span class="soft">{{
        watch.looked_at
          ? `Last looked ${inZone(watch.looked_at, about?.shell.timezone ?? 'UTC')}; every night by itself.`
          : 'Nobody has looked yet; every night it is done by itself.'
      }}</span>
      <label class="push"
        >When something has changed
        <select
          :value="watch.way"
          :disabled="!about?.may_change"
          @change="choose.mutate(($event.target as HTMLSelectElement).value as Way)"
        >
          <option value="ask">ask me</option>
          <option value="follow">follow the publisher</option>
          <option value="keep">keep the shell's</option>
        </select></label
      >
      <NButton
        size="small"
        type="primary"
        :disabled="!about?.may_change"
        :loading="running"
        @click="look.mutate()"
        >Look now</NButton
      >
    </div>
    <EmptyNote v-if="!watch.drifts.length && watch.looked_at" title="Both sides stand as deployed"
      ><p>
        Points, dates, titles, categories, places and order are as they were placed.
      </p></EmptyNote
    >
    <section
      v-for="group in groups"
      :key="group.name"
      class="sheet"
      :class="group.name"
      :aria-label="words(group.name)[0]"
    >
      <h2>
        {{ words(group.name)[0] }} <span class="soft">{{ group.rows.length }} changed since</span>
      </h2>
      <ul>
        <li v-for="each in group.rows" :key="each.id" :class="each.level">
          <div class="row">
            <strong>{{ each.title }}</strong><span class="kind">{{
              each.kind.replaceAll('_', ' ').replace('item ', '')
            }}</span>
          </div>
          <DriftFigure :drift="each" />
          <p class="soft">{{ each.breaks }} Likely changed by {{ each.who }}.</p>
          <div v-if="about?.may_change" class="row">
            <NButton size="small" @click="mend.mutate({ drifts: [each.id], way: 'follow' })">{{
              each.kind === 'item_gone' ? 'Take the link out' : words(group.name)[1]
            }}</NButton>
            <NButton
              size="small"
              quaternary
              @click="mend.mutate({ drifts: [each.id], way: 'keep' })"
              >{{ words(group.name)[2] }}</NButton
            >
          </div>
        </li>
      </ul>
    </section>
    <div v-if="every.length > 1 && about?.may_change" class="row tools">
      <NButton
        :loading="mend.isPending.value"
        @click="mend.mutate({ drifts: every, way: 'follow' })"
        >Mend all {{ every.length }}</NButton
      ><NButton quaternary @click="mend.mutate({ drifts: every, way: 'keep' })"
        >Keep all as they are</NButton
      >
    </div>
    <LearnerView :pairing="id" :may-change="about?.may_change ?? false" />
    <TravelTable :pairing="id" />
  </template>
</template>

<style scoped>
.tools {
  margin-bottom: 0.9rem;
}
section {
  margin-bottom: 0.9rem;
}
section.shell {
  border-top: 4px solid var(--right);
}
section.publisher {
  border-top: 4px solid var(--left);
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 0.5rem 0 0.6rem 0.8rem;
  border-left: 3px solid var(--rule);
  margin-bottom: 0.5rem;
}
li.error {
  border-color: var(--alarm);
}
li.warning {
  border-color: var(--left);
}
li p {
  margin: 0.2rem 0 0.4rem;
  font-size: 0.92rem;
}
.kind {
  background: var(--both-wash);
  color: var(--both);
  border-radius: 999px;
  padding: 0 0.5rem;
  font-size: 0.84rem;
  font-weight: 600;
}
select {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.2rem 0.4rem;
}
</style>
