<script setup lang="ts">
import { NProgress } from 'naive-ui/es/progress'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { byName } from '@/logic/order'
import { BUSY } from './queries'
import { t } from '@/words'

const props = defineProps<{ sections: readonly Schemas['SetUpSection'][] }>()
const inOrder = computed(() => [...props.sections].sort((a, b) => byName(a.name, b.name)))
const STAGES: Record<string, string> = {
  refused: t('set_up.section_rows.left_out'),
  reading: t('set_up.section_rows.reading_its_course'),
  not_read: t('set_up.section_rows.its_course_could_not_be'),
  ready: t('set_up.section_rows.ready'),
  running: t('set_up.section_rows.being_set_up'),
  waiting: t('set_up.section_rows.waits_for_the_other_side'),
  live: t('set_up.section_rows.live'),
  failed: t('set_up.section_rows.did_not_work'),
  stopped: t('set_up.section_rows.stopped'),
  undoing: t('set_up.section_rows.being_undone'),
  undone: t('set_up.section_rows.undone'),
  not_undone: t('set_up.section_rows.not_undone'),
}
const BAD = ['refused', 'not_read', 'failed', 'not_undone']
const share = (section: Schemas['SetUpSection']) =>
  section.job?.total ? Math.round((100 * section.job.done) / section.job.total) : 0
const said = (section: Schemas['SetUpSection']) =>
  section.stage === 'ready'
    ? ''
    : [section.message || section.job?.message, section.remedy || section.job?.remedy]
        .filter(Boolean)
        .join(' ')
</script>

<template>
  <ul class="sections" aria-live="polite">
    <li v-for="section in inOrder" :key="section.shell" class="sheet" :class="section.stage">
      <svg viewBox="0 0 64 40" width="48" height="30" aria-hidden="true">
        <circle class="a" :cx="section.stage === 'live' ? 25 : 18" cy="20" r="15" />
        <circle class="b" :cx="section.stage === 'live' ? 39 : 46" cy="20" r="15" />
      </svg>
      <div class="words">
        <strong>{{ section.name }}</strong>
        {{ ' ' }}<span class="soft">{{ section.course }}</span>
        <p :class="BAD.includes(section.stage) || section.troubles ? 'bad' : 'soft'">
          {{ STAGES[section.stage] ?? section.stage
          }}<template v-if="said(section)">: {{ said(section) }}</template>
        </p>
        <span v-if="BUSY.includes(section.stage) && section.job?.total" class="soft small">{{
          $t('set_up.section_rows.of', { done: section.job.done, total: section.job.total })
        }}</span>
        <NProgress
          v-if="BUSY.includes(section.stage)"
          :percentage="share(section)"
          :show-indicator="false"
          :height="6"
          :aria-label="$t('set_up.section_rows.how_far_is', { name: section.name })"
        />
      </div>
      <RouterLink
        v-if="section.pairing && section.stage === 'live'"
        :to="{ name: 'pair', params: { pairing: section.pairing } }"
        >{{ $t('set_up.section_rows.open')
        }}<span class="sr-only"> {{ section.name }}</span></RouterLink
      >
    </li>
  </ul>
</template>

<style scoped>
.sections {
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 30rem), 1fr));
  gap: 0.5rem;
}
.sections li {
  display: flex;
  gap: 0.9rem;
  align-items: center;
  padding-block: 0.55rem;
}
.words {
  flex: 1;
  min-width: 0;
}
.words p {
  margin: 0.1rem 0 0;
}
.small {
  font-size: 0.88rem;
}
.bad {
  color: var(--alarm);
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2;
  fill-opacity: 0.7;
}
svg circle {
  transition: cx 0.4s;
}
.undone circle,
.refused circle {
  stroke-dasharray: 3 3;
}
</style>
