<script setup lang="ts">
import LabeledField from '@/parts/LabeledField.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'

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
  if (!props.chosen) return t('content.bring_bar.choose_entries_above_nothing_happens')
  const { plan } = props
  if (!plan) return t('content.bring_bar.working_out_what_will_happen')
  const { make, update, same, keep, leave_out: out } = plan.counts
  const parts = [
    t('content.bring_bar.bring_in_new', { make: make ?? 0 }),
    update ? t('content.bring_bar.update', { update }) : '',
    same ? t('content.bring_bar.leave_that_stand_there', { same }) : '',
    keep ? t('content.bring_bar.keep_that_were_changed_there', { keep }) : '',
    out ? t('content.bring_bar.leave_out', { out }) : '',
  ].filter(Boolean)
  const columns = plan.columns
    ? t('content.bring_bar.with_a_gradebook_column', { columns: plan.columns })
    : ''
  return t('content.bring_bar.will', {
    parts: parts.join(', '),
    columns,
    outline: plan.new_folder
      ? t('content.bring_bar.into_a_new_folder', { new_folder: plan.new_folder })
      : plan.folder
        ? t('content.bring_bar.into_2', { folder: plan.folder })
        : t('content.bring_bar.at_the_top_of_the'),
  })
})
const writes = computed(() => (props.plan?.counts.make ?? 0) + (props.plan?.counts.update ?? 0))
</script>

<template>
  <div class="bar" role="region" :aria-label="$t('content.bring_bar.what_will_happen')">
    <ProblemNote :error="error" />
    <div class="row">
      <LabeledField :label="$t('content.bring_bar.into')">
        <ChooseOne
          v-model:value="place"
          :label="$t('content.bring_bar.folder_of_the_shell')"
          :options="[
            { value: '', label: $t('content.bring_bar.the_top_of_the_outline') },
            { value: 'new', label: $t('content.bring_bar.a_new_folder') },
            ...folders.map((node) => ({
              value: node.id,
              label: '  '.repeat(node.depth) + node.title,
            })),
          ]"
        />
      </LabeledField>
      <NInput
        v-if="place === 'new'"
        v-model:value="fresh"
        size="small"
        :maxlength="255"
        :input-props="{ 'aria-label': $t('outline.new_title') }"
        style="max-width: 15rem"
      />
      <LabeledField v-if="review" :label="$t('content.bring_bar.review_folders')">
        <ChooseOne
          v-model:value="treatment"
          :label="$t('content.bring_bar.review_folders')"
          :options="[
            { value: 'keep', label: $t('content.bring_bar.as_they_are') },
            { value: 'hide', label: $t('content.bring_bar.hidden') },
            { value: 'leave_out', label: $t('content.bring_bar.left_out') },
          ]"
        />
      </LabeledField>
    </div>
    <div class="row">
      <p class="sentence" aria-live="polite">{{ sentence }}</p>
      <NButton :disabled="!chosen || !mayChange" @click="$emit('write', 'full')">{{
        $t('content.bring_bar.write_as_a_file')
      }}</NButton>
      <NButton :disabled="!chosen || !mayChange" @click="$emit('write', 'thin')">{{
        $t('content.bring_bar.links_only')
      }}</NButton>
      <NButton
        type="primary"
        :disabled="!writes || !mayChange"
        :loading="busy"
        @click="$emit('bring')"
        >{{ $t('content.bring_bar.bring_in') }}</NButton
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
@media (max-width: 640px) {
  .bar {
    position: static;
    border-radius: 12px;
  }
}
</style>
