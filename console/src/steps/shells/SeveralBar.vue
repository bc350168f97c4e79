<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import { type Deed, useSeveral } from './useSeveral'

const props = defineProps<{ chosen: Schemas['Shell'][] }>()
const { outcomes, busy, run } = useSeveral(toRef(props, 'chosen'))
const deeds: [Deed, string][] = [
  ['relay-on', 'Turn the relay on'],
  ['relay-off', 'Turn the relay off'],
  ['look', 'Open links as a learner'],
  ['compare', 'Compare now'],
  ['nightly', 'Compare every night'],
]
</script>

<template>
  <section class="sheet" aria-label="Several shells">
    <div class="row">
      <strong>{{ many(chosen.length, 'shell') }} chosen</strong>
      <NButton
        v-for="[deed, label] in deeds"
        :key="deed"
        size="small"
        :disabled="!chosen.length || Boolean(busy)"
        :loading="busy === deed"
        @click="run(deed)"
        >{{ label }}</NButton
      >
    </div>
    <div role="status">
      <ul v-if="outcomes.length">
        <li v-for="each in outcomes" :key="each.shell.id" :class="{ trouble: !each.well }">
          <RouterLink :to="{ name: 'pair', params: { pairing: each.shell.pairing } }">{{
            each.shell.label
          }}</RouterLink>: {{ each.words }}
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 0.8rem;
}
ul {
  margin: 0.6rem 0 0;
  padding-left: 1.1rem;
}
.trouble {
  color: var(--alarm);
}
</style>
