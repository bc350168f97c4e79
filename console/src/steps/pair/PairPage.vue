<script setup lang="ts">
import { I18nT } from 'vue-i18n'
import { NAlert } from 'naive-ui/es/alert'
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { RouterLink } from 'vue-router'
import VennFigure from '@/figures/VennFigure.vue'
import { inZone } from '@/logic/dates'
import AfterReading from '@/parts/AfterReading.vue'
import EmptyNote from '@/parts/EmptyNote.vue'
import JobNote from '@/parts/JobNote.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import FirstSteps from './FirstSteps.vue'
import LearnerMatches from './LearnerMatches.vue'
import ReadinessList from './ReadinessList.vue'
import StatePanel from './StatePanel.vue'
import ToolPanel from './ToolPanel.vue'
import { usePairing } from './usePairing'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { about, checks, reading, comparison, job, running, compare, relay, setUp } = usePairing(id)
</script>

<template>
  <JobNote v-if="setUp && setUp.state !== 'done'" :job="setUp" :doing="$t('pair.setting_up')" />
  <NAlert
    v-if="about?.state === 'ended'"
    class="gap"
    type="warning"
    :title="$t('pair.has_ended')"
    :bordered="false"
    >{{ $t('pair.restore_below') }}</NAlert
  >
  <div class="columns">
    <section aria-labelledby="sides">
      <div class="row">
        <h2 id="sides">{{ $t('pair.both_sides') }}</h2>
        <span v-if="comparison?.at && about" class="soft">{{
          $t('pair.compared', { at: inZone(comparison.at, about.shell.timezone) })
        }}</span>
        <NButton
          class="push"
          size="small"
          :loading="running || compare.isPending.value"
          @click="compare.mutate()"
          >{{ $t('shells.deed.compare') }}</NButton
        >
      </div>
      <ProblemNote :error="compare.error.value" />
      <JobNote v-if="job && job.state !== 'done'" :job="job" :doing="$t('pair.comparing')" />
      <VennFigure v-if="comparison?.venn" :pairing="id" :venn="comparison.venn" />
      <EmptyNote v-else :title="$t('pair.not_compared')"
        ><p>{{ $t('pair.not_compared_means') }}</p></EmptyNote
      >
    </section>
    <section aria-labelledby="ready">
      <NAlert
        v-if="about && !about.relay_on"
        class="gap"
        type="warning"
        :title="$t('pair.relay_off')"
        :bordered="false"
      >
        <NButton
          v-if="about.may_change"
          size="small"
          type="primary"
          :loading="relay.isPending.value"
          @click="relay.mutate(true)"
          >{{ $t('pair.turn_on') }}</NButton
        >
      </NAlert>
      <ProblemNote :error="relay.error.value" />
      <h2 id="ready">{{ $t('pair.readiness') }}</h2>
      <AfterReading :reading="reading" :what="$t('pair.both_what')">
        <ReadinessList v-if="checks" :checks="checks" />
      </AfterReading>
      <I18nT v-if="about?.state === 'ready'" keypath="pair.next" tag="p">
        <template #content
          ><RouterLink :to="{ name: 'content', params: { pairing: id } }">{{
            $t('pair.next_content')
          }}</RouterLink></template
        >
        <template #deploy
          ><RouterLink :to="{ name: 'deploy', params: { pairing: id } }">{{
            $t('pair.next_deploy')
          }}</RouterLink></template
        >
      </I18nT>
    </section>
  </div>
  <div v-if="about" class="more">
    <MoreBelow sheet :title="$t('pair.learners')">
      <LearnerMatches :pairing="id" :may-change="about.may_change" />
    </MoreBelow>
    <MoreBelow sheet :title="$t('pair.first_steps')">
      <FirstSteps :pairing="about" />
    </MoreBelow>
    <MoreBelow sheet :title="$t('pair.tool')">
      <ToolPanel
        :pairing="id"
        :shell="about.shell.id"
        :zone="about.shell.timezone"
        :may-change="about.may_change"
      />
    </MoreBelow>
    <MoreBelow v-if="about.may_change" sheet :title="$t('pair.state')">
      <StatePanel :pairing="about" />
    </MoreBelow>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
  gap: 1.8rem;
}
.gap {
  margin-bottom: 0.9rem;
}
.more {
  margin-top: 1.3rem;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
