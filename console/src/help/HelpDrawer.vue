<script setup lang="ts">
import { NDrawer, NDrawerContent } from 'naive-ui/es/drawer'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { moreAbout, titleKey } from './pages'

const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ page: string }>()
const more = computed(() => moreAbout(props.page))
const links = computed(() => [...new Set([more.value, 'first-day' as const])])
</script>

<template>
  <NDrawer v-model:show="show" width="min(26rem, 100vw)" :aria-label="$t('help.title')">
    <NDrawerContent :title="$t('help.title')" closable>
      <p>{{ $t(`help.${page}`) }}</p>
      <h2>{{ $t('help.more') }}</h2>
      <ul>
        <li v-for="name in links" :key="name">
          <RouterLink :to="{ name: 'help', params: { page: name } }" @click="show = false">{{
            $t(titleKey(name))
          }}</RouterLink>
        </li>
      </ul>
    </NDrawerContent>
  </NDrawer>
</template>

<style scoped>
h2 {
  margin: 1rem 0 0.2rem;
  font-size: 1rem;
}
ul {
  margin: 0;
  padding-left: 1.2rem;
}
</style>
