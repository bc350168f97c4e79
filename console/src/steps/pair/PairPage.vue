<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api } from '@/api/client'
import VennFigure from '@/figures/VennFigure.vue'
import { inZone } from '@/logic/dates'
import EmptyNote from '@/parts/EmptyNote.vue'
import { tryPopup, useBrowserChecks } from '@/parts/browser'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { latestComparisonQuery } from '@/steps/reconcile/queries'
import FirstSteps from './FirstSteps.vue'
import LearnerMatches from './LearnerMatches.vue'
import { pairingQuery, readinessQuery } from './queries'
import StatePanel from './StatePanel.vue'
import ToolPanel from './ToolPanel.vue'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: checks, error, isPending } = useQuery(computed(() => readinessQuery(id.value)))
const { data: comparison } = useQuery(computed(() => latestComparisonQuery(id.value)))
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
const relay = useMutation({
  mutationFn: (on: boolean) =>
    answered(
      api.PATCH('/api/v1/pairings/{id}', {
        params: { path: { id: id.value } },
        body: { relay_on: on },
      }),
    ),
  onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', id.value] }),
})
const setUpId = computed(() =>
  about.value?.set_up && !['done'].includes(about.value.set_up.state)
    ? about.value.set_up.id
    : undefined,
)
const { job: setUp } = useJob(setUpId, id)
const { troubles, popups } = useBrowserChecks()
const passed = computed(() => checks.value?.filter((check) => check.state === 'ok') ?? [])
const open = computed(() => checks.value?.filter((check) => check.state !== 'ok') ?? [])
</script>

<template>
  <JobNote v-if="setUp && setUp.state !== 'done'" :job="setUp" doing="Setting up" />
  <div v-if="about?.state === 'ended'" class="off">
    <strong>This pairing was ended; its links lead nowhere.</strong> All scores are kept. It can be
    taken up again below, for thirty days.
  </div>
  <div class="columns">
    <section aria-labelledby="stands">
      <div class="row">
        <h2 id="stands">How it stands</h2>
        <span v-if="comparison?.at && about" class="soft"
          >compared {{ inZone(comparison.at, about.shell.timezone) }}</span
        >
        <NButton
          class="push"
          size="small"
          :loading="running || compare.isPending.value"
          @click="compare.mutate()"
          >Compare now</NButton
        >
      </div>
      <ProblemNote :error="compare.error.value" />
      <JobNote v-if="job && job.state !== 'done'" :job="job" doing="Comparing" />
      <VennFigure v-if="comparison?.venn" :pairing="id" :venn="comparison.venn" />
      <EmptyNote v-else title="Not compared yet"
        ><p>Compare once, and each number here leads to exactly the rows behind it.</p></EmptyNote
      >
    </section>
    <section aria-labelledby="ready">
      <div v-if="about && !about.relay_on" class="off">
        <strong>The relay is off: no score reaches the gradebook.</strong>
        <NButton
          v-if="about.may_change"
          size="small"
          type="primary"
          :loading="relay.isPending.value"
          @click="relay.mutate(true)"
          >Turn it on</NButton
        >
      </div>
      <ProblemNote :error="relay.error.value" />
      <h2 id="ready">Readiness</h2>
      <LoadingNote v-if="isPending" what="both sides" />
      <ProblemNote v-else-if="error" :error="error" />
      <template v-else-if="checks">
        <ul class="checks">
          <li v-for="check in open" :key="check.code" :class="check.state">
            <span class="mark" aria-hidden="true">{{ check.state === 'fail' ? '×' : '!' }}</span>
            <span
              ><span class="sr-only">{{ check.state === 'fail' ? 'Fails:' : 'Look:' }} </span
              >{{ check.message
              }}<span v-if="check.remedy" class="soft remedy">{{ check.remedy }}</span></span
            >
          </li>
          <li v-for="trouble in troubles" :key="trouble.code" class="warn">
            <span class="mark" aria-hidden="true">!</span
            ><span
              ><span class="sr-only">Look: </span>{{ trouble.message
              }}<span class="soft remedy">{{ trouble.remedy }}</span></span
            >
          </li>
        </ul>
        <details class="passed">
          <summary>{{ checks.length - open.length }} of {{ checks.length }} checks pass</summary>
          <ul class="checks">
            <li v-for="check in passed" :key="check.code" class="ok">
              <span class="mark" aria-hidden="true">✓</span
              ><span><span class="sr-only">Passes: </span>{{ check.message }}</span>
            </li>
          </ul>
        </details>
        <p class="row">
          <button type="button" class="quiet" @click="tryPopup()">
            Try pop-ups in this browser</button
          ><span v-if="popups === 'open'" class="soft" role="status">They open.</span>
        </p>
      </template>
      <p v-if="about?.state === 'ready'">
        Next:
        <RouterLink :to="{ name: 'content', params: { pairing: id } }"
          >import the course's content</RouterLink
        >, then
        <RouterLink :to="{ name: 'deploy', params: { pairing: id } }">deploy</RouterLink> what the
        class will do.
      </p>
    </section>
  </div>
  <div v-if="about" class="more">
    <details class="sheet">
      <summary>Learners at the publisher</summary>
      <LearnerMatches :pairing="id" :may-change="about.may_change" />
    </details>
    <details class="sheet">
      <summary>First steps for learners</summary>
      <FirstSteps :pairing="about" />
    </details>
    <details class="sheet">
      <summary>Venn Pair in the shell</summary>
      <ToolPanel
        :pairing="id"
        :shell="about.shell.id"
        :zone="about.shell.timezone"
        :may-change="about.may_change"
      />
    </details>
    <details v-if="about.may_change" class="sheet">
      <summary>Pause, end, or withdraw the agreement</summary>
      <StatePanel :pairing="about" />
    </details>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
  gap: 2rem;
}
.checks {
  list-style: none;
  padding: 0;
  margin: 0;
}
.checks li {
  display: flex;
  gap: 0.7rem;
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
.mark {
  flex: none;
  width: 1.4rem;
  height: 1.4rem;
  border-radius: 50%;
  display: grid;
  place-items: center;
  font-weight: 700;
  font-size: 0.85rem;
}
.ok .mark {
  color: var(--good);
  border: 1.5px solid var(--good);
}
.warn .mark {
  color: var(--left);
  background: var(--left-wash);
}
.fail .mark {
  color: var(--alarm);
  background: var(--alarm-wash);
}
.remedy {
  margin-left: 0.35rem;
}
.off {
  background: var(--alarm-wash);
  border-radius: 10px;
  padding: 0.7rem 1rem;
  display: flex;
  gap: 1rem;
  align-items: center;
  margin-bottom: 1rem;
}
.passed {
  margin: 0.6rem 0;
}
.passed summary {
  font-weight: 500;
  color: var(--soft);
}
.more {
  display: grid;
  gap: 0.7rem;
  margin-top: 1.6rem;
}
summary {
  font-weight: 650;
  cursor: pointer;
}
details[open] > summary {
  margin-bottom: 0.6rem;
}
.quiet {
  font: inherit;
  border: 0;
  background: none;
  color: var(--both);
  text-decoration: underline;
  padding: 0;
  cursor: pointer;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
