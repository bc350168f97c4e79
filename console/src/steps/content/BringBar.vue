<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'

const props = defineProps<{
  chosen: number
  plan?: Schemas['DeliveryPlan']
  outline: Schemas['Node'][]
  title: string
  error: Error | null
  busy: boolean
  mayChange: boolean
  review: number
}>()
defineEmits<{ bring: []; write: [profile: 'full' | 'thin'] }>()
/** A folder's id, a new folder's title, or empty for the top of the outline. */
const folder = defineModel<string>('folder', { required: true })
const treatment = defineModel<'keep' | 'hide' | 'leave_out'>('treatment', { required: true })
const place = ref('')
const fresh = ref(props.title)
watch(
  [place, fresh],
  () => (folder.value = place.value === 'new' ? fresh.value.trim() || props.title : place.value),
)
const folders = computed(() => props.outline.filter((node) => node.kind === 'folder'))
const sentence = computed(() => {
  if (!props.chosen)
    return 'Choose entries above. Nothing happens in the shell until you press Bring in.'
  const { plan } = props
  if (!plan) return 'Working out what will happen …'
  const { make, update, same, keep, leave_out: out } = plan.counts as Record<string, number>
  const parts = [
    `bring in ${make} new`,
    update ? `update ${update}` : '',
    same ? `leave ${same} that stand there` : '',
    keep ? `keep ${keep} that were changed there` : '',
    out ? `leave out ${out}` : '',
  ].filter(Boolean)
  const columns = plan.columns ? `, ${plan.columns} with a gradebook column` : ''
  return `Will ${parts.join(', ')}${columns}; ${plan.new_folder ? `into a new folder “${plan.new_folder}”` : plan.folder ? `into “${plan.folder}”` : 'at the top of the outline'}.`
})
const writes = computed(
  () =>
    ((props.plan?.counts as Record<string, number> | undefined)?.make ?? 0) +
    ((props.plan?.counts as Record<string, number> | undefined)?.update ?? 0),
)
</script>

<template>
  <div class="bar" role="region" aria-label="What will happen">
    <ProblemNote :error="error" />
    <div class="row">
      <label
        >Into
        <select v-model="place" aria-label="Folder of the shell">
          <option value="">the top of the outline</option>
          <option value="new">a new folder</option>
          <option v-for="node in folders" :key="node.id" :value="node.id">
            {{ '  '.repeat(node.depth) + node.title }}
          </option>
        </select></label
      >
      <NInput
        v-if="place === 'new'"
        v-model:value="fresh"
        size="small"
        :maxlength="255"
        :input-props="{ 'aria-label': 'Title of the new folder' }"
        style="max-width: 15rem"
      />
      <label v-if="review"
        >Review folders
        <select v-model="treatment">
          <option value="keep">as they are</option>
          <option value="hide">hidden</option>
          <option value="leave_out">left out</option>
        </select></label
      >
    </div>
    <div class="row">
      <p class="sentence" aria-live="polite">{{ sentence }}</p>
      <NButton :disabled="!chosen || !mayChange" @click="$emit('write', 'full')"
        >Write as a file</NButton
      >
      <NButton :disabled="!chosen || !mayChange" @click="$emit('write', 'thin')"
        >Links only</NButton
      >
      <NButton
        type="primary"
        :disabled="!writes || !mayChange"
        :loading="busy"
        @click="$emit('bring')"
        >Bring in</NButton
      >
    </div>
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-top: 4px solid var(--both);
  border-radius: 12px 12px 0 0;
  padding: 0.7rem 1.1rem;
  margin-top: 1.2rem;
  box-shadow: 0 -6px 18px rgb(0 0 0 / 8%);
  z-index: 1;
}
.sentence {
  margin: 0.3rem 0 0;
  font-weight: 600;
  flex: 1 1 22rem;
}
select {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.2rem 0.4rem;
  max-width: 100%;
}
@media (max-width: 640px) {
  .bar {
    position: static;
    border-radius: 12px;
  }
}
</style>
