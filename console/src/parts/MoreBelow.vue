<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCollapseTransition } from 'naive-ui/es/collapse-transition'
import { useId } from 'vue'

/** A heading that opens what is below it: a button that says so, and the library's transition. */
defineProps<{ title: string; sheet?: boolean }>()
const open = defineModel<boolean>('open', { default: false })
const id = useId()
</script>

<template>
  <section :class="{ sheet }" class="more">
    <NButton
      class="opens"
      :class="{ open }"
      quaternary
      size="small"
      :aria-expanded="open"
      :aria-controls="id"
      @click="open = !open"
      ><span class="arrow" aria-hidden="true">›</span><slot name="title">{{ title }}</slot></NButton
    >
    <NCollapseTransition :id="id" :show="open"
      ><div class="inside"><slot v-if="open" /></div
    ></NCollapseTransition>
  </section>
</template>

<style scoped>
.more {
  margin: 0.5rem 0;
}
.more.sheet {
  padding: 0.5rem 0.7rem;
}
.opens {
  font-weight: 600;
  padding: 0 0.4rem;
  max-width: 100%;
  height: auto;
  min-height: 1.9rem;
  line-height: 1.35;
  white-space: normal;
  text-align: left;
}
.opens :deep(.n-button__content) {
  white-space: normal;
}
.opens :deep(h2) {
  display: inline;
  margin: 0 0.7rem 0 0;
  font-size: 1rem;
}
.opens :deep(.soft) {
  font-weight: 400;
}
.arrow {
  display: inline-block;
  margin-right: 0.5rem;
  transition: transform 0.15s;
}
.open .arrow {
  transform: rotate(90deg);
}
.inside {
  padding: 0.4rem 0.4rem 0.2rem;
}
</style>
