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
    router.replace({
      name: 'sign-in',
      query: { next: window.location.pathname + window.location.search },
    })
  }
})
</script>

<template>
  <a class="skip" href="#main">Skip to the content</a>
  <header class="bar">
    <RouterLink class="home" to="/" aria-label="Venn Pair, your shells">
      <svg viewBox="0 0 44 26" width="44" height="26" aria-hidden="true">
        <circle cx="15" cy="13" r="11" class="a" />
        <circle cx="29" cy="13" r="11" class="b" />
      </svg>
      Venn Pair
    </RouterLink>
    <nav v-if="me" aria-label="Everywhere">
      <RouterLink to="/">Shells</RouterLink>
      <RouterLink :to="{ name: 'operations' }">Operations</RouterLink>
      <RouterLink :to="{ name: 'agreement' }">Agreement</RouterLink>
      <RouterLink :to="{ name: 'files' }">Files</RouterLink>
      <RouterLink :to="{ name: 'accounts' }">Accounts</RouterLink>
      <RouterLink v-if="me.administrator" :to="{ name: 'connections' }">Connections</RouterLink>
      <RouterLink :to="{ name: 'notices' }"
        >Notices<span v-if="me.notices" class="count"
          >{{ me.notices }}<span class="sr-only"> new</span></span
        ></RouterLink
      >
    </nav>
    <RouterLink v-if="me" class="me" :to="{ name: 'access' }"
      >{{ me.name }}<span class="soft college">, {{ me.institution }}</span></RouterLink
    >
  </header>
  <main id="main" tabindex="-1"><RouterView /></main>
</template>

<style scoped>
.bar {
  display: flex;
  align-items: center;
  gap: 1rem;
  padding: 0.55rem 1.2rem;
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
  gap: 0.2rem;
  margin-left: 0.6rem;
}
nav a {
  color: var(--soft);
  text-decoration: none;
  padding: 0.2rem 0.6rem;
  border-radius: 8px;
  white-space: nowrap;
}
nav a:hover,
nav a.router-link-exact-active {
  color: var(--ink);
  background: var(--both-wash);
}
.count {
  margin-left: 0.35rem;
  background: var(--both);
  color: var(--paper);
  border-radius: 999px;
  padding: 0 0.45rem;
  font-size: 0.8rem;
  font-weight: 700;
}
.me {
  margin-left: auto;
  color: var(--ink);
  text-decoration: none;
}
.me:hover {
  text-decoration: underline;
}
.skip {
  position: absolute;
  left: -999px;
}
.skip:focus {
  left: 0.5rem;
  top: 0.5rem;
  background: var(--sheet);
  padding: 0.5rem 1rem;
  z-index: 10;
}
main:focus {
  outline: none;
}
@media (max-width: 760px) {
  .college {
    display: none;
  }
  .bar {
    padding: 0.5rem 0.8rem;
    flex-wrap: wrap;
    gap: 0.3rem 1rem;
  }
  nav {
    order: 3;
    width: 100%;
    margin: 0;
    overflow-x: auto;
  }
  nav a {
    padding: 0.2rem 0.45rem;
  }
}
@media (max-width: 430px) {
  nav {
    gap: 0 0.5rem;
    flex-wrap: wrap;
  }
  nav a {
    padding: 0.2rem;
    font-size: 0.9rem;
  }
}
</style>
