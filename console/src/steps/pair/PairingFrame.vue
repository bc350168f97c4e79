<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import { useQuery } from '@tanstack/vue-query'
import { computed, toRef } from 'vue'
import { RouterLink, RouterView } from 'vue-router'
import { zoneName } from '@/logic/dates'
import { stateName } from '@/logic/states'
import { pairingQuery } from './queries'

const STEPS = ['pair', 'content', 'deploy', 'relay', 'reconcile', 'activity'] as const
const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about, ...reading } = useQuery(computed(() => pairingQuery(id.value)))
</script>

<template>
  <div class="page">
    <h1 v-if="!about" class="sr-only">
      {{ $t(`crumb.${String($route.meta.step ?? $route.name)}`) }}
    </h1>
    <AfterReading :reading="reading" :what="$t('pair.what')">
      <template v-if="about">
        <div class="sides">
          <h1 class="left">
            <span class="who">{{ about.course.publisher }}</span>{{ about.course.title }},
            {{ about.course.code }}
          </h1>
          <div class="state">{{ stateName('state', about.state) }}</div>
          <div class="right">
            <span class="who">{{ about.shell.platform }}</span>{{ about.shell.label }}
            {{ about.shell.title }}
          </div>
        </div>
        <nav :aria-label="$t('pair.steps')">
          <RouterLink
            v-for="name in STEPS"
            :key="name"
            :to="{ name, params: { pairing: id } }"
            :class="{ on: ($route.meta.step ?? $route.name) === name }"
            :aria-current="($route.meta.step ?? $route.name) === name ? 'page' : undefined"
            >{{ $t(`crumb.${name}`) }}</RouterLink
          >
          <span class="push soft zone">{{
            $t('pair.time_zone', { zone: zoneName(about.shell.timezone) })
          }}</span>
        </nav>
        <RouterView :key="id" />
      </template>
    </AfterReading>
  </div>
</template>

<style scoped>
.sides {
  display: flex;
  align-items: stretch;
  gap: 0;
  margin-bottom: 0.8rem;
}
.left,
.right {
  flex: 1;
  padding: 0.55rem 1rem;
  font-size: 1.02rem;
  font-weight: 600;
  margin: 0;
  line-height: 1.35;
}
.left {
  background: var(--left-wash);
  border-radius: 999px 0 0 999px;
  padding-left: 1.7rem;
}
.right {
  background: var(--right-wash);
  border-radius: 0 999px 999px 0;
  text-align: right;
  padding-right: 1.7rem;
}
.state {
  background: var(--both-wash);
  padding: 0 1.2rem;
  display: grid;
  place-items: center;
  font-weight: 650;
  color: var(--both);
}
.who {
  display: block;
  font-size: 0.78rem;
  font-weight: 500;
  color: var(--ink);
  opacity: 0.85;
}
nav {
  display: flex;
  gap: 0.2rem;
  border-bottom: 1px solid var(--rule);
  margin-bottom: 1.1rem;
  flex-wrap: wrap;
}
nav a {
  padding: 0.45rem 0.9rem;
  text-decoration: none;
  color: var(--soft);
  border-bottom: 3px solid transparent;
  white-space: nowrap;
}
.zone {
  align-self: center;
  font-size: 0.85rem;
}
nav a.on {
  color: var(--ink);
  font-weight: 650;
  border-color: var(--both);
}
nav a:hover {
  color: var(--ink);
}
@media (max-width: 640px) {
  .sides {
    flex-direction: column;
  }
  .left {
    border-radius: 16px 16px 0 0;
    padding-left: 1rem;
  }
  .right {
    border-radius: 0 0 16px 16px;
    text-align: left;
    padding-right: 1rem;
  }
  .state {
    padding: 0.15rem 1rem;
    place-items: start;
  }
  nav a {
    padding: 0.45rem 0.3rem;
    font-size: 0.92rem;
  }
}
</style>
