<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { watch } from 'vue'
import { RouterLink, RouterView, useRouter } from 'vue-router'
import { Problem } from '@/api/client'
import { meQuery } from '@/steps/connect/queries'

const router = useRouter()
const { data: me, error } = useQuery(meQuery())

watch(error, (now) => {
  if (now instanceof Problem && now.status === 401 && window.location.pathname !== '/sign-in') {
    router.replace({ name: 'sign-in', query: { next: window.location.pathname + window.location.search } })
  }
})
</script>

<template>
  <a class="skip" href="#main">Skip to the content</a>
  <header class="bar">
    <RouterLink class="home" to="/" aria-label="Venn Pair, your shells">
      <svg viewBox="0 0 44 26" width="44" height="26" aria-hidden="true">
        <circle cx="15" cy="13" r="11" class="a" /><circle cx="29" cy="13" r="11" class="b" />
      </svg>
      Venn Pair
    </RouterLink>
    <RouterLink v-if="me" class="me" :to="{ name: 'access' }">{{ me.name }}<span class="soft college">, {{ me.institution }}</span></RouterLink>
  </header>
  <main id="main" tabindex="-1"><RouterView /></main>
</template>

<style scoped>
.bar { display: flex; align-items: center; gap: 1rem; padding: 0.55rem 1.2rem; border-bottom: 1px solid var(--rule); background: var(--sheet); }
.home { display: flex; align-items: center; gap: 0.6rem; font-weight: 700; text-decoration: none; color: var(--ink); }
.a { fill: var(--left); fill-opacity: 0.85; }
.b { fill: var(--right); fill-opacity: 0.72; }
.me { margin-left: auto; color: var(--ink); text-decoration: none; }
.me:hover { text-decoration: underline; }
.skip { position: absolute; left: -999px; }
.skip:focus { left: 0.5rem; top: 0.5rem; background: var(--sheet); padding: 0.5rem 1rem; z-index: 10; }
main:focus { outline: none; }
@media (max-width: 640px) { .college { display: none; } .bar { padding: 0.5rem 0.8rem; } }
</style>
