<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { DEED_NAMES, useSeveral } from './useSeveral'

const props = defineProps<{ chosen: Schemas['Shell'][] }>()
const { outcomes, busy, run } = useSeveral(toRef(props, 'chosen'))
</script>

<template>
  <section class="sheet" :aria-label="$t('shells.several')">
    <div class="row">
      <strong>{{ $t('shells.chosen', chosen.length) }}</strong>
      <NButton
        v-for="deed in DEED_NAMES"
        :key="deed"
        size="small"
        :disabled="!chosen.length || Boolean(busy)"
        :loading="busy === deed"
        @click="run(deed)"
        >{{ $t(`shells.deed.${deed}`) }}</NButton
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
