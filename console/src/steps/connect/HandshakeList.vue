<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { t } from '@/words'

defineProps<{ steps: readonly Schemas['Handshake'][] }>()
const marks = { ok: '✓', fail: '×', skip: '–' }
const words = {
  ok: t('connect.handshake_list.works'),
  fail: t('connect.handshake_list.fails'),
  skip: t('connect.handshake_list.not_tried'),
}
const sides = {
  ours: t('connect.handshake_list.your_side_must_act'),
  theirs: t('connect.handshake_list.their_side_must_act'),
  both: t('connect.handshake_list.compare_the_values_on_both'),
  '': '',
}
</script>

<template>
  <p class="sr-only" role="status">
    {{
      $t('connect.handshake_list.of_steps_fail', {
        fail: steps.filter((step) => step.state === 'fail').length,
        steps: steps.length,
      })
    }}
  </p>
  <ol class="steps">
    <li v-for="step in steps" :key="step.step" :class="step.state">
      <span class="mark" aria-hidden="true">{{ marks[step.state] }}</span>
      <span
        ><strong>{{ step.step }}</strong
        ><span class="sr-only"> {{ words[step.state] }}</span> {{ step.message }}
        <em v-if="step.state === 'fail' && step.side">{{ sides[step.side] }}.</em>
        <span v-if="step.remedy" class="soft">{{ step.remedy }}</span></span
      >
    </li>
  </ol>
</template>

<style scoped>
.steps {
  list-style: none;
  padding: 0;
  margin: 0.6rem 0;
}
li {
  display: flex;
  gap: 0.6rem;
  padding: 0.3rem 0;
  border-top: 1px solid var(--rule);
}
.mark {
  flex: none;
  width: 1.3rem;
  height: 1.3rem;
  border-radius: 50%;
  display: grid;
  place-items: center;
  font-weight: 700;
  font-size: 0.8rem;
  border: 1.5px solid currentColor;
}
.ok .mark {
  color: var(--good);
}
.fail .mark {
  color: var(--alarm);
  background: var(--alarm-wash);
}
.skip .mark {
  color: var(--soft);
}
em {
  color: var(--alarm);
  font-style: normal;
  font-weight: 600;
}
</style>
