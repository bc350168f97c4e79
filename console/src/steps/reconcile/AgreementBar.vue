<script setup lang="ts">
/** How much of a pairing agrees, as a bar with its number in it. */
defineProps<{ agree: number; cells: number; share: number | null }>()
</script>

<template>
  <span v-if="cells" class="bar" :title="$t('reconcile.agreement.of', { agree, cells })"
    ><i :style="{ width: `${share}%` }"></i><b>{{ share }} %</b></span
  >
  <span v-else class="soft">–</span>
</template>

<style scoped>
.bar {
  position: relative;
  display: inline-block;
  width: 8.5rem;
  height: 1.5rem;
  border-radius: 999px;
  background: var(--alarm-wash);
  overflow: hidden;
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--both-wash);
  border-right: 2px solid var(--both);
}
.bar b {
  position: relative;
  display: block;
  padding-left: 0.7rem;
  line-height: 1.5rem;
  font-size: 0.88rem;
}
</style>
