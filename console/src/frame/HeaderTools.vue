<script setup lang="ts">
import IconBell from '@vicons/tabler/es/Bell'
import IconHelp from '@vicons/tabler/es/Help'
import IconSearch from '@vicons/tabler/es/Search'
import { onKeyStroke } from '@vueuse/core'
import { NButton } from 'naive-ui/es/button'
import { computed, defineAsyncComponent, ref } from 'vue'
import { useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import ProfileMenu from './ProfileMenu.vue'

// Loaded when first opened: nobody waits for them on the way in.
const CommandSearch = defineAsyncComponent(() => import('./CommandSearch.vue'))
const NoticeCentre = defineAsyncComponent(() => import('./NoticeCentre.vue'))
const HelpDrawer = defineAsyncComponent(() => import('@/help/HelpDrawer.vue'))

/** What one comes back to from every page: search, help, notices, one's own settings. */
defineProps<{ me: Schemas['Me'] }>()
const route = useRoute()
const opened = ref<'search' | 'notices' | 'help'>()
const show = (what: typeof opened.value) => ({
  show: opened.value === what,
  'onUpdate:show': (now: boolean) => (opened.value = now ? what : undefined),
})
onKeyStroke('k', (event) => {
  if (!(event.ctrlKey || event.metaKey)) return
  event.preventDefault()
  opened.value = 'search'
})
const help = computed(() => route.meta.help as string | undefined)
</script>

<template>
  <div class="tools">
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
    <CommandSearch v-if="opened === 'search'" v-bind="show('search')" />
    <NoticeCentre v-if="opened === 'notices'" v-bind="show('notices')" />
    <HelpDrawer v-if="opened === 'help' && help" v-bind="show('help')" :page="help" />
  </div>
</template>

<style scoped>
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
}
</style>
