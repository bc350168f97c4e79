<script setup lang="ts">
import { RouterLink } from 'vue-router'
import EmptyNote from './EmptyNote.vue'
</script>

<template>
  <div class="page"><EmptyNote title="There is no such page"><p>The address may be old. <RouterLink to="/">Go to your shells</RouterLink>.</p></EmptyNote></div>
</template>
