<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NPopconfirm } from 'naive-ui/es/popconfirm'
import { computed } from 'vue'
import { many } from '@/logic/counting'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { isBusy } from './queries'
import ScoresForm from './ScoresForm.vue'
import SectionPlans from './SectionPlans.vue'
import SectionRows from './SectionRows.vue'
import StationSteps from './StationSteps.vue'
import { stationOf, useSetUp, writing } from './useSetUp'
import WhatForm from './WhatForm.vue'

const props = defineProps<{ setUp: string }>()
const { found, choices, ready, plan, start, stop, undo } = useSetUp(computed(() => props.setUp))
const about = computed(() => found.data.value)
const busy = computed(() => !!about.value && isBusy(about.value))
const stages = computed(() => about.value?.sections.map((each) => each.stage) ?? [])
const all = (stage: string) => stages.value.length > 0 && stages.value.every((s) => s === stage)
const live = computed(() => stages.value.filter((stage) => stage === 'live').length)
const left = computed(
  () => !busy.value && stages.value.some((stage) => !['undone', 'refused'].includes(stage)),
)
const links = computed(
  () => plan.data.value?.sections.reduce((sum, each) => sum + (each.plan?.make ?? 0), 0) ?? 0,
)
const going = computed(() => stages.value.filter((stage) => stage === 'ready').length)
const writes = computed(() => writing(plan.data.value) > 0)
</script>

<template>
  <div class="page">
    <h1>Set up</h1>
    <StationSteps :current="stationOf(about)" :done="all('live')" />
    <LoadingNote v-if="found.isPending.value" what="the set-up" />
    <ProblemNote
      v-else-if="found.error.value"
      :error="found.error.value"
      @again="found.refetch()"
    />
    <template v-else-if="about">
      <p v-if="about.started_at && all('live')" role="status" class="end">
        <strong>{{ about.words }}.</strong> Set the weights and drop rules in the gradebook
        yourself; no standard carries them.
      </p>
      <p v-else-if="about.started_at && !busy && live" role="status" class="end">
        <strong>{{ live }} of {{ stages.length }} sections are live.</strong> The others say below
        what to do.
      </p>
      <p v-else-if="all('undone')" role="status" class="end">
        <strong>Everything was taken back.</strong> The shells are as they were before.
      </p>
      <SectionRows :sections="about.sections" />
      <template v-if="ready">
        <LoadingNote v-if="plan.isPending.value" what="the shells, for the plan" />
        <ProblemNote
          v-else-if="plan.error.value"
          :error="plan.error.value"
          @again="plan.refetch()"
        />
        <template v-else-if="plan.data.value">
          <WhatForm v-model:choices="choices" :plan="plan.data.value" />
          <ScoresForm v-model:choices="choices" />
          <SectionPlans :plan="plan.data.value" />
          <ProblemNote :error="start.error.value" />
          <p class="foot">
            <NButton
              type="primary"
              :disabled="!writes"
              :loading="start.isPending.value || plan.isFetching.value"
              @click="start.mutate()"
              >Set up {{ many(going, 'section') }}</NButton
            >
            <span class="soft">{{
              writes
                ? `${many(links, 'new link')} in all. You can undo all of it.`
                : 'Everything is in the shells already: nothing needs to be done.'
            }}</span>
          </p>
        </template>
      </template>
      <ProblemNote :error="stop.error.value ?? undo.error.value" />
      <p v-if="about.started_at && busy" class="foot">
        <NButton :loading="stop.isPending.value" @click="stop.mutate()">Stop</NButton>
        <span class="soft">You may leave this page; it goes on, and a notice tells you.</span>
      </p>
      <p v-else-if="left" class="foot">
        <NPopconfirm
          :positive-text="about.started_at ? 'Undo all of it' : 'Unpair'"
          negative-text="Keep it"
          @positive-click="undo.mutate()"
        >
          <template #trigger>
            <NButton :loading="undo.isPending.value">{{
              about.started_at ? 'Undo all of it' : 'Unpair them again'
            }}</NButton>
          </template>
          {{
            about.started_at
              ? 'Links, columns and folders are taken out again, and the shells are no longer paired. What learners have worked on stays.'
              : 'Nothing was placed; the shells are no longer paired then.'
          }}
        </NPopconfirm>
      </p>
    </template>
  </div>
</template>

<style scoped>
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem;
  align-items: center;
  margin-top: 1rem;
}
.end {
  background: var(--both-wash);
  border-radius: 10px;
  padding: 0.7rem 1rem;
}
</style>
