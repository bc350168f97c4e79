<script setup lang="ts">
defineProps<{ title: string }>()
</script>

<template>
  <div class="empty">
    <svg viewBox="0 0 120 60" width="120" height="60" aria-hidden="true">
      <circle cx="46" cy="30" r="24" class="a" />
      <circle cx="74" cy="30" r="24" class="b" />
    </svg>
    <h2>{{ title }}</h2>
    <div class="soft"><slot /></div>
  </div>
</template>

<style scoped>
.empty {
  text-align: center;
  padding: 2.2rem 1rem;
}
.a,
.b {
  fill: none;
  stroke-width: 2.5;
  stroke-dasharray: 6 5;
}
.a {
  stroke: var(--left);
}
.b {
  stroke: var(--right);
}
h2 {
  margin-top: 0.7rem;
}
</style>
