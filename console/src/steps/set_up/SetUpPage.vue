<script setup lang="ts">
import { t } from '@/words'
import AfterReading from '@/parts/AfterReading.vue'
import { useConfirm } from '@/parts/useConfirm'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { isBusy } from './queries'
import ScoresForm from './ScoresForm.vue'
import SectionPlans from './SectionPlans.vue'
import SectionRows from './SectionRows.vue'
import SetUpEnd from './SetUpEnd.vue'
import StationSteps from './StationSteps.vue'
import { stationOf, useSetUp, writing } from './useSetUp'
import WhatForm from './WhatForm.vue'

const props = defineProps<{ setUp: string }>()
const { found, choices, ready, plan, start, stop, undo } = useSetUp(computed(() => props.setUp))
const about = computed(() => found.data.value)
const busy = computed(() => !!about.value && isBusy(about.value))
const stages = computed(() => about.value?.sections.map((each) => each.stage) ?? [])
const done = computed(() => stages.value.length > 0 && stages.value.every((s) => s === 'live'))
const left = computed(
  () => !busy.value && stages.value.some((stage) => !['undone', 'refused'].includes(stage)),
)
const links = computed(
  () => plan.data.value?.sections.reduce((sum, each) => sum + (each.plan?.make ?? 0), 0) ?? 0,
)
const going = computed(() => stages.value.filter((stage) => stage === 'ready').length)
const writes = computed(() => writing(plan.data.value) > 0)
const confirm = useConfirm()
async function askToUndo(started: boolean) {
  const deed = t(started ? 'set_up.set_up.undo_all_of_it' : 'set_up.set_up.unpair_them_again')
  const content = t(
    started
      ? 'set_up.set_up.links_columns_and_folders_are'
      : 'set_up.set_up.nothing_was_placed_the_shells',
  )
  if (await confirm({ title: deed, content, doIt: deed, danger: true })) undo.mutate()
}
</script>

<template>
  <div class="page">
    <h1>{{ $t('set_up.set_up.set_up') }}</h1>
    <StationSteps :current="stationOf(about)" :done="done" />
    <AfterReading :reading="found" :what="$t('set_up.set_up.the_set_up')">
      <template v-if="about">
        <SetUpEnd :about="about" :busy="busy" />
        <SectionRows :sections="about.sections" />
        <template v-if="ready">
          <AfterReading :reading="plan" :what="$t('set_up.set_up.the_shells_for_the_plan')">
            <template v-if="plan.data.value">
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
                  >{{
                    $t('set_up.set_up.set_up_2', { section: $t('count.sections', going) })
                  }}</NButton
                >
                <span class="soft">{{
                  writes
                    ? $t('set_up.set_up.in_all_you_can_undo', {
                        link: $t('count.new_links', links),
                      })
                    : $t('set_up.set_up.everything_is_in_the_shells')
                }}</span>
              </p>
            </template>
          </AfterReading>
        </template>
        <ProblemNote :error="stop.error.value ?? undo.error.value" />
        <p v-if="about.started_at && busy" class="foot">
          <NButton :loading="stop.isPending.value" @click="stop.mutate()">{{
            $t('set_up.set_up.stop')
          }}</NButton>
          <span class="soft">{{ $t('set_up.set_up.you_may_leave_this_page') }}</span>
        </p>
        <p v-else-if="left" class="foot">
          <NButton :loading="undo.isPending.value" @click="askToUndo(Boolean(about.started_at))">{{
            $t(
              about.started_at ? 'set_up.set_up.undo_all_of_it' : 'set_up.set_up.unpair_them_again',
            )
          }}</NButton>
        </p>
      </template>
    </AfterReading>
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
</style>
