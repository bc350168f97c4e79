<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import DriftFigure from '@/figures/DriftFigure.vue'
import { stateName } from '@/logic/states'
import { t } from '@/words'

/** What changed on one side since placing, each with the two ways to handle it. */
const props = defineProps<{
  side: 'shell' | 'publisher'
  drifts: Schemas['Drift'][]
  mayChange: boolean
}>()
const emit = defineEmits<{ mend: [drifts: string[], way: 'follow' | 'keep'] }>()
const WORDS = {
  shell: [
    t('deploy.changes.in_the_shell'),
    t('deploy.changes.put_back_as_deployed'),
    t('deploy.changes.keep_the_shells_2'),
  ],
  publisher: [
    t('deploy.changes.at_the_publisher'),
    t('deploy.changes.bring_into_the_shell'),
    t('deploy.changes.leave_the_shell_as_it'),
  ],
} as const
const words = computed(() => WORDS[props.side])
</script>

<template>
  <section class="sheet" :class="side" :aria-label="words[0]">
    <h2>
      {{ words[0] }}
      <span class="soft">{{ $t('deploy.changes.changed_since', { rows: drifts.length }) }}</span>
    </h2>
    <ul>
      <li v-for="each in drifts" :key="each.id" :class="each.level">
        <div class="row">
          <strong>{{ each.title }}</strong><span class="kind">{{
            stateName('drift', each.kind)
          }}</span>
        </div>
        <DriftFigure :drift="each" />
        <p class="soft">
          {{ $t('deploy.changes.likely_changed_by', { breaks: each.breaks, who: each.who }) }}
        </p>
        <div v-if="mayChange" class="row">
          <NButton size="small" @click="emit('mend', [each.id], 'follow')">{{
            each.kind === 'item_gone' ? $t('deploy.changes.take_the_link_out') : words[1]
          }}</NButton>
          <NButton size="small" quaternary @click="emit('mend', [each.id], 'keep')">{{
            words[2]
          }}</NButton>
        </div>
      </li>
    </ul>
  </section>
</template>

<style scoped>
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
</style>
