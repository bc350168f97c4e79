<script setup lang="ts">
import { RouterLink, useRoute } from 'vue-router'
import { GROUPS, titleKey } from './pages'
import type { Part } from './typeset'

/** All help pages by who reads them; below the one that is open, its parts. */
defineProps<{ page: string; parts: readonly Part[] }>()
const route = useRoute()
/** To the router every part of a page is where one is: it does not compare what follows the #. */
const isHere = (part: Part) => route.hash === `#${part.id}`
</script>

<template>
  <nav id="help-pages" :aria-label="$t('help_pages.all')">
    <template v-for="group in GROUPS" :key="group.name">
      <h2>{{ $t(`help_pages.group.${group.name}`) }}</h2>
      <ul>
        <li v-for="name in group.pages" :key="name">
          <RouterLink :to="{ name: 'help', params: { page: name } }">{{
            $t(titleKey(name))
          }}</RouterLink>
          <ul v-if="name === page && parts.length > 1">
            <li v-for="part in parts" :key="part.id">
              <RouterLink
                :to="{ hash: `#${part.id}` }"
                :aria-current="isHere(part) ? 'location' : undefined"
                >{{ part.title }}</RouterLink
              >
            </li>
          </ul>
        </li>
      </ul>
    </template>
  </nav>
</template>

<style scoped>
nav {
  font-size: 0.93rem;
}
h2 {
  margin: 1.1rem 0 0.2rem;
  font-size: 0.82rem;
  color: var(--soft);
}
h2:first-child {
  margin-top: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
ul ul {
  margin: 0.1rem 0 0.4rem 0.75rem;
  border-left: 1px solid var(--rule);
  font-size: 0.86rem;
}
a {
  display: block;
  padding: 0.22rem 0.6rem;
  border-radius: 6px;
  color: var(--ink);
  text-decoration: none;
}
a:hover {
  text-decoration: underline;
}
ul ul a {
  color: var(--soft);
}
ul ul a[aria-current] {
  color: var(--both);
  font-weight: 600;
}
nav > ul > li > a[aria-current='page'] {
  background: var(--both-wash);
  color: var(--both);
  font-weight: 600;
}
</style>
