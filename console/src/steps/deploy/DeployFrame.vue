<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, toRef } from 'vue'
import { RouterLink, RouterView } from 'vue-router'
import { driftQuery } from './queries'
import { t } from '@/words'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: watch } = useQuery(computed(() => driftQuery(id.value)))
const views = [
  ['deploy', t('deploy.deploy_frame.place_items')],
  ['placed', t('deploy.deploy_frame.placed')],
  ['changes', t('deploy.deploy_frame.kept_right')],
  ['rollouts', t('deploy.deploy_frame.rollouts')],
] as const
</script>

<template>
  <nav :aria-label="$t('deploy.deploy_frame.deploying')">
    <RouterLink
      v-for="[name, label] in views"
      :key="name"
      :to="{ name, params: { pairing: id } }"
      :class="{ on: $route.name === name }"
      >{{ label
      }}<span v-if="name === 'changes' && watch?.drifts.length" class="count">{{
        watch.drifts.length
      }}</span></RouterLink
    >
  </nav>
  <RouterView />
</template>

<style scoped>
nav {
  display: flex;
  gap: 0.4rem;
  margin-bottom: 0.9rem;
  flex-wrap: wrap;
}
a {
  padding: 0.15rem 0.8rem;
  border-radius: 999px;
  text-decoration: none;
  color: var(--soft);
  border: 1px solid var(--rule);
  background: var(--sheet);
  font-size: 0.93rem;
}
a.on {
  background: var(--both-wash);
  color: var(--both);
  font-weight: 650;
  border-color: transparent;
}
.count {
  margin-left: 0.4rem;
  background: var(--alarm-wash);
  color: var(--alarm);
  border-radius: 999px;
  padding: 0 0.45rem;
  font-weight: 650;
}
</style>
