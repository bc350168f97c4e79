<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'

const props = defineProps<{ today: Schemas['Today'] }>()
const last = computed(() => props.today.days.at(-1))
</script>

<template>
  <ul class="counts">
    <li>
      <RouterLink :to="{ name: 'shells' }"
        ><b>{{ today.live }}</b
        >{{ $t('today.live', { shells: today.shells }) }}</RouterLink
      >
    </li>
    <li>
      <span class="left-side"
        ><b>{{ last?.received ?? 0 }}</b
        >{{ $t('today.received') }}</span
      >
    </li>
    <li>
      <span class="right-side"
        ><b>{{ last?.delivered ?? 0 }}</b
        >{{ $t('today.delivered') }}</span
      >
    </li>
    <li>
      <span
        ><b>{{ today.waiting }}</b
        >{{ $t('today.waiting') }}</span
      >
    </li>
  </ul>
</template>

<style scoped>
.counts {
  list-style: none;
  padding: 0;
  margin: 0.6rem 0 1.2rem;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(8.5rem, 1fr));
  gap: 0.6rem;
}
.counts li > * {
  display: grid;
  padding: 0.5rem 0.9rem;
  border: 1px solid var(--rule);
  border-radius: 10px;
  background: var(--sheet);
  color: var(--ink);
  text-decoration: none;
  height: 100%;
}
.counts a:hover {
  border-color: var(--both);
}
.counts .left-side {
  border-left: 4px solid var(--left);
}
.counts .right-side {
  border-right: 4px solid var(--right);
}
b {
  font-size: 1.6rem;
  line-height: 1.2;
}
</style>
