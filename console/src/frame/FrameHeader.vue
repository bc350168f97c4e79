<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { t } from '@/words'
import HeaderTools from './HeaderTools.vue'

const props = defineProps<{ me: Schemas['Me'] | undefined }>()
const pages = computed(() =>
  [
    ['today', t('frame.today')],
    ['shells', t('frame.shells')],
    ['operations', t('frame.operations')],
    ['agreement', t('frame.agreement')],
    ['files', t('frame.files')],
    ['accounts', t('frame.accounts')],
    ...(props.me?.administrator ? [['connections', t('frame.connections')]] : []),
  ].map(([name, label]) => ({ name: name!, label: label! })),
)
</script>

<template>
  <header class="bar">
    <RouterLink class="home" to="/" :aria-label="$t('frame.home')">
      <svg viewBox="0 0 44 26" width="44" height="26" aria-hidden="true">
        <circle cx="15" cy="13" r="11" class="a" />
        <circle cx="29" cy="13" r="11" class="b" />
      </svg>
      <span class="name">Venn Pair</span>
    </RouterLink>
    <nav v-if="me" :aria-label="$t('frame.nav')">
      <RouterLink v-for="page in pages" :key="page.name" :to="{ name: page.name }">{{
        page.label
      }}</RouterLink>
    </nav>
    <HeaderTools v-if="me" :me="me" />
  </header>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 0.4rem 1rem;
  padding: 0.5rem 1.2rem;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
}
.home {
  display: flex;
  align-items: center;
  gap: 0.6rem;
  font-weight: 700;
  text-decoration: none;
  color: var(--ink);
  white-space: nowrap;
}
.a {
  fill: var(--left);
  fill-opacity: 0.85;
}
.b {
  fill: var(--right);
  fill-opacity: 0.72;
}
nav {
  display: flex;
  gap: 0.1rem;
}
nav a {
  color: var(--soft);
  text-decoration: none;
  padding: 0.2rem 0.55rem;
  border-radius: 8px;
  white-space: nowrap;
}
nav a:hover,
nav a.router-link-exact-active {
  color: var(--ink);
  background: var(--both-wash);
}
@media (max-width: 480px) {
  .home {
    gap: 0.35rem;
  }
}
@media (max-width: 900px) {
  .bar {
    padding: 0.5rem 0.8rem;
    flex-wrap: wrap;
  }
  nav {
    order: 3;
    width: 100%;
    flex-wrap: wrap;
    gap: 0 0.2rem;
  }
  nav a {
    padding: 0.2rem 0.35rem;
    font-size: 0.92rem;
  }
}
</style>
