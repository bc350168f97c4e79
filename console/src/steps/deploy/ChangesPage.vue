<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { inZone } from '@/logic/dates'
import EmptyNote from '@/parts/EmptyNote.vue'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import DriftList from './DriftList.vue'
import LearnerView from './LearnerView.vue'
import RolloutNote from './RolloutNote.vue'
import TravelTable from './TravelTable.vue'
import { useDrift, type Way } from './useDrift'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { about, watch, reading, groups, every, job, running, look, begun, mend, choose } =
  useDrift(id)
</script>

<template>
  <AfterReading :reading="reading" :what="$t('deploy.changes.what_was_found')">
    <template v-if="watch">
      <JobNote
        v-if="job && (running || job.state !== 'done')"
        :job="job"
        :doing="$t('deploy.changes.looking_for_drift')"
      />
      <RolloutNote v-for="rollout in begun" :key="rollout.id" :rollout="rollout" />
      <ProblemNote :error="look.error.value ?? mend.error.value ?? choose.error.value" />
      <div class="row tools">
        <span class="soft">{{
          watch.looked_at
            ? $t('deploy.changes.last_looked_every_night_by', {
                utc: inZone(watch.looked_at, about?.shell.timezone ?? 'UTC'),
              })
            : $t('deploy.changes.nobody_has_looked_yet_every')
        }}</span>
        <div class="field push">
          <span>{{ $t('deploy.changes.when_something_has_changed') }}</span>
          <ChooseOne
            :value="watch.way"
            @chosen="choose.mutate($event as Way)"
            :label="$t('deploy.changes.when_something_has_changed')"
            :disabled="!about?.may_change"
            :options="[
              { value: 'ask', label: $t('deploy.changes.ask_me') },
              { value: 'follow', label: $t('deploy.changes.follow_the_publisher') },
              { value: 'keep', label: $t('deploy.changes.keep_the_shells') },
            ]"
          />
        </div>
        <NButton
          size="small"
          type="primary"
          :disabled="!about?.may_change"
          :loading="running"
          @click="look.mutate()"
          >{{ $t('deploy.changes.look_now') }}</NButton
        >
      </div>
      <EmptyNote
        v-if="!watch.drifts.length && watch.looked_at"
        :title="$t('deploy.changes.both_sides_stand_as_deployed')"
        ><p>
          {{ $t('deploy.changes.points_dates_titles_categories_place') }}
        </p></EmptyNote
      >
      <DriftList
        v-for="group in groups"
        :key="group.name"
        :side="group.name"
        :drifts="group.rows"
        :may-change="about?.may_change ?? false"
        @mend="(drifts, way) => mend.mutate({ drifts, way })"
      />
      <div v-if="every.length > 1 && about?.may_change" class="row tools">
        <NButton
          :loading="mend.isPending.value"
          @click="mend.mutate({ drifts: every, way: 'follow' })"
          >{{ $t('deploy.changes.mend_all', { every: every.length }) }}</NButton><NButton
          quaternary
          @click="mend.mutate({ drifts: every, way: 'keep' })"
          >{{ $t('deploy.changes.keep_all_as_they_are') }}</NButton
        >
      </div>
      <LearnerView :pairing="id" :may-change="about?.may_change ?? false" />
      <TravelTable :pairing="id" />
    </template>
  </AfterReading>
</template>

<style scoped>
.tools {
  margin-bottom: 0.9rem;
}
</style>
