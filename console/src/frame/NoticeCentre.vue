<script setup lang="ts">
import { NDrawer, NDrawerContent } from 'naive-ui/es/drawer'
import { RouterLink } from 'vue-router'
import NoticeList from '@/steps/activity/NoticeList.vue'

const show = defineModel<boolean>('show', { required: true })
</script>

<template>
  <NDrawer v-model:show="show" width="min(30rem, 100vw)" :aria-label="$t('notices.title')">
    <NDrawerContent :title="$t('notices.title')" closable>
      <NoticeList :most="20" @follow="show = false" />
      <template #footer
        ><RouterLink :to="{ name: 'notices' }" @click="show = false">{{
          $t('notices.all')
        }}</RouterLink></template
      >
    </NDrawerContent>
  </NDrawer>
</template>
