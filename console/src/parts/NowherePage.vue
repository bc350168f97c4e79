<script setup lang="ts">
import { RouterLink } from 'vue-router'
import EmptyNote from './EmptyNote.vue'
</script>

<template>
  <div class="page">
    <h1>{{ $t('nowhere.title') }}</h1>
    <EmptyNote :title="$t('nowhere.what')"
      ><p>
        {{ $t('nowhere.means') }} <RouterLink to="/">{{ $t('nowhere.go') }}</RouterLink>
      </p></EmptyNote
    >
  </div>
</template>
