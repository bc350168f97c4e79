<script setup lang="ts">
import { ownZone, zoneName } from '@/logic/dates'
import NoticeList from './NoticeList.vue'
</script>

<template>
  <div class="page">
    <h1>{{ $t('notices.title') }}</h1>
    <p class="soft">{{ $t('common.your_time_zone', { zone: zoneName(ownZone()) }) }}</p>
    <NoticeList />
  </div>
</template>
