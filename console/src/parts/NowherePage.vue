<script setup lang="ts">
import { RouterLink } from 'vue-router'
import EmptyNote from './EmptyNote.vue'
</script>

<template>
  <div class="page">
    <h1>Nothing here</h1>
    <EmptyNote title="There is no such page"
      ><p>The address may be old. <RouterLink to="/">Go to your shells</RouterLink>.</p></EmptyNote
    >
  </div>
</template>
