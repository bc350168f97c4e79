<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'

const props = defineProps<{ chosen: number; plan?: Schemas['Plan']; error: Error | null; busy: boolean; mayChange: boolean }>()
defineEmits<{ deploy: [] }>()
const undated = defineModel<'ask' | 'column' | 'link'>('undated', { required: true })
const sentence = computed(() => {
  const { plan } = props
  if (!props.chosen) return 'Choose items on the left and a place on the right. Nothing happens until you press Deploy.'
  if (!plan) return 'Working out what will happen …'
  const where = plan.new_folder ? `a new folder “${plan.new_folder}”` : plan.folder ? `“${plan.folder}”` : 'the top of the outline'
  const links = `${plan.links.length} link${plan.links.length === 1 ? '' : 's'}`
  return `Will make ${links} in ${where}, ${plan.columns} with a gradebook column.`
})
const dateless = computed(() => props.plan?.notices.filter((notice) => notice.code === 'due_missing') ?? [])
const others = computed(() => props.plan?.notices.filter((notice) => notice.code !== 'due_missing') ?? [])
</script>

<template>
  <div class="bar" role="region" aria-label="What will happen">
    <ProblemNote :error="error" />
    <div class="row">
      <p class="sentence" aria-live="polite">{{ sentence }}</p>
      <NButton class="push" type="primary" :disabled="!plan?.links.length || !mayChange" :loading="busy" @click="$emit('deploy')">Deploy</NButton>
    </div>
    <div v-if="dateless.length || undated !== 'ask'" class="row undated">
      <span>Without a date{{ dateless.length ? `: ${dateless.map((each) => each.title).join(', ')}` : '' }}</span>
      <label><input v-model="undated" type="radio" value="ask" /> leave out</label>
      <label><input v-model="undated" type="radio" value="column" /> with a column</label>
      <label><input v-model="undated" type="radio" value="link" /> as a link only</label>
    </div>
    <p v-for="notice in others" :key="notice.item" class="soft">{{ notice.message }} {{ notice.remedy }}</p>
  </div>
</template>

<style scoped>
.bar { position: sticky; bottom: 0; background: var(--sheet); border: 1px solid var(--rule); border-top: 4px solid var(--both); border-radius: 12px 12px 0 0; padding: 0.8rem 1.1rem; margin-top: 1.2rem; box-shadow: 0 -6px 18px rgb(0 0 0 / 8%); }
.sentence { margin: 0; font-weight: 600; flex: 1; }
.undated { margin-top: 0.5rem; color: var(--left); }
.undated label { color: var(--ink); }
input { accent-color: var(--both); }
</style>
