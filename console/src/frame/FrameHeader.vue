<script setup lang="ts">
import IconBell from '@vicons/tabler/es/Bell'
import IconHelp from '@vicons/tabler/es/Help'
import IconSearch from '@vicons/tabler/es/Search'
import { onKeyStroke } from '@vueuse/core'
import { NButton } from 'naive-ui/es/button'
import { computed, defineAsyncComponent, ref } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import { t } from '@/words'
import ProfileMenu from './ProfileMenu.vue'

// Loaded when first opened: nobody waits for them on the way in.
const CommandSearch = defineAsyncComponent(() => import('./CommandSearch.vue'))
const NoticeCentre = defineAsyncComponent(() => import('./NoticeCentre.vue'))
const PageHelp = defineAsyncComponent(() => import('./PageHelp.vue'))

const props = defineProps<{ me: Schemas['Me'] | undefined }>()
const route = useRoute()
const opened = ref<'search' | 'notices' | 'help'>()
const show = (what: typeof opened.value) => ({
  show: opened.value === what,
  'onUpdate:show': (now: boolean) => (opened.value = now ? what : undefined),
})
onKeyStroke('k', (event) => {
  if (!props.me || !(event.ctrlKey || event.metaKey)) return
  event.preventDefault()
  opened.value = 'search'
})
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
const help = computed(() => route.meta.help as string | undefined)
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
    <div class="tools">
      <template v-if="me">
        <NButton
          class="search"
          size="small"
          secondary
          :aria-label="$t('frame.search')"
          aria-keyshortcuts="Control+K"
          @click="opened = 'search'"
          ><template #icon><IconSearch aria-hidden="true" /></template
          ><span class="long">{{ $t('frame.search_short') }} <kbd>Ctrl K</kbd></span></NButton
        >
        <NButton
          v-if="help"
          size="small"
          quaternary
          circle
          :aria-label="$t('frame.help')"
          :title="$t('frame.help')"
          @click="opened = 'help'"
          ><template #icon><IconHelp aria-hidden="true" /></template
        ></NButton>
        <NButton
          class="bell"
          size="small"
          quaternary
          circle
          :aria-label="$t('frame.new_notices', me.notices)"
          :title="$t('frame.notices')"
          @click="opened = 'notices'"
          ><template #icon><IconBell aria-hidden="true" /></template
        ></NButton>
        <span v-if="me.notices" class="count" aria-hidden="true">{{ me.notices }}</span>
        <ProfileMenu :me="me" />
      </template>
    </div>
    <CommandSearch v-if="opened === 'search'" v-bind="show('search')" />
    <NoticeCentre v-if="opened === 'notices'" v-bind="show('notices')" />
    <PageHelp v-if="opened === 'help' && help" v-bind="show('help')" :page="help" />
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
.tools {
  display: flex;
  gap: 0.3rem;
  align-items: center;
  margin-left: auto;
}
kbd {
  font: inherit;
  font-size: 0.75rem;
  color: var(--soft);
  margin-left: 0.3rem;
}
.count {
  margin-left: -0.9rem;
  margin-top: -0.9rem;
  background: var(--alarm);
  color: var(--paper);
  border-radius: 999px;
  padding: 0 0.35rem;
  font-size: 0.72rem;
  font-weight: 700;
  pointer-events: none;
}
@media (max-width: 1080px) {
  .long {
    display: none;
  }
}
@media (max-width: 480px) {
  .search {
    padding: 0 8px;
  }
  .tools {
    gap: 0;
  }
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
