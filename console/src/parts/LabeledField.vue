<script setup lang="ts">
/** A form's field under its visible name; the field itself has the name for who cannot see it. */
defineProps<{ label: string }>()
</script>

<template>
  <div class="labeled">
    <span>{{ label }}</span>
    <slot></slot>
  </div>
</template>

<style scoped>
.labeled {
  display: grid;
  gap: 0.1rem;
  font-size: 0.85rem;
  color: var(--soft);
}
</style>
