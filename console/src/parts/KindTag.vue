<script setup lang="ts">
import { computed } from 'vue'
import { kindOf } from '@/logic/kinds'

const props = defineProps<{ code: string; count?: number }>()
const kind = computed(() => kindOf(props.code))
</script>

<template>
  <span class="tag" :class="kind.tone"
    ><b v-if="kind.mark" aria-hidden="true">{{ kind.mark }}</b
    >{{ kind.label }}<span v-if="count !== undefined"> {{ count }}</span></span
  >
</template>

<style scoped>
.tag {
  display: inline-flex;
  gap: 0.35rem;
  align-items: baseline;
  border-radius: 999px;
  padding: 0.05rem 0.6rem;
  font-size: 0.85rem;
  white-space: nowrap;
  border: 1px solid currentColor;
}
.left {
  color: var(--left);
  background: var(--left-wash);
}
.right {
  color: var(--right);
  background: var(--right-wash);
}
.alarm {
  color: var(--alarm);
  background: var(--alarm-wash);
}
.both,
.quiet {
  color: var(--both);
  background: var(--both-wash);
}
</style>
