<script setup lang="ts">
import NoticeList from './NoticeList.vue'
</script>

<template>
  <div class="page">
    <h1>{{ $t('notices.title') }}</h1>
    <NoticeList />
  </div>
</template>
