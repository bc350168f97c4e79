<script setup lang="ts">
import { NDrawer, NDrawerContent } from 'naive-ui/es/drawer'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { docOf } from './docs'

const show = defineModel<boolean>('show', { required: true })
const props = defineProps<{ page: string }>()
const doc = computed(() => docOf(props.page))
</script>

<template>
  <NDrawer v-model:show="show" width="min(26rem, 100vw)" :aria-label="$t('help.title')">
    <NDrawerContent :title="$t('help.title')" closable>
      <p>{{ $t(`help.${page}`) }}</p>
      <p v-if="doc">
        <RouterLink :to="{ name: 'docs', params: { page: doc } }" @click="show = false">{{
          $t('help.more')
        }}</RouterLink>
      </p>
    </NDrawerContent>
  </NDrawer>
</template>
