<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { type RouteLocationRaw, RouterLink } from 'vue-router'
import { kindCounts, kindName, type Row } from '@/logic/entries'

defineProps<{
  rows: Row[]
  view: { kind?: string; look?: string }
  attention: number
  chosen: number
  mayChange: boolean
  toggle: (name: 'kind' | 'look', value: string) => RouteLocationRaw
}>()
const words = defineModel<string>('words', { required: true })
const emit = defineEmits<{ all: []; none: []; rename: [] }>()
</script>

<template>
  <div class="row tools">
    <NInput
      v-model:value="words"
      size="small"
      clearable
      :placeholder="$t('content.import.search_titles')"
      :input-props="{ 'aria-label': $t('content.import.search_titles') }"
      style="max-width: 14rem"
    />
    <nav class="row kinds" :aria-label="$t('content.import.which_entries')">
      <RouterLink
        v-for="[kind, count] in kindCounts(rows)"
        :key="kind"
        :to="toggle('kind', kind)"
        replace
        :class="{ on: view.kind === kind }"
        >{{ kindName(kind) }} {{ count }}</RouterLink
      >
      <RouterLink
        v-if="attention"
        :to="toggle('look', 'attention')"
        replace
        class="look"
        :class="{ on: view.look === 'attention' }"
        >{{ $t('content.import.look_at', { attention }) }}</RouterLink
      >
    </nav>
    <span class="push row"
      ><NButton size="small" @click="emit('all')">{{
        $t('content.import.choose_all_shown')
      }}</NButton
      ><NButton size="small" :disabled="!chosen" @click="emit('none')">{{
        $t('content.import.none')
      }}</NButton
      ><NButton v-if="mayChange" size="small" :disabled="!chosen" @click="emit('rename')">{{
        $t('content.import.rename', { chosen: chosen || '' })
      }}</NButton></span
    >
  </div>
</template>

<style scoped>
.tools {
  margin-bottom: 0.7rem;
}
.kinds a {
  padding: 0.1rem 0.65rem;
  border-radius: 999px;
  text-decoration: none;
  border: 1px solid var(--rule);
  color: var(--ink);
  font-size: 0.88rem;
}
.kinds a.on {
  background: var(--both-wash);
  border-color: var(--both);
  font-weight: 600;
}
.kinds a.look {
  border-color: var(--alarm);
  color: var(--alarm);
}
</style>
