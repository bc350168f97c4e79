<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { computed, ref, toRef } from 'vue'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import AveragePanel from './AveragePanel.vue'
import ChangePanel from './ChangePanel.vue'
import PlacedFolder from './PlacedFolder.vue'
import RolloutNote from './RolloutNote.vue'
import TakeBackPanel from './TakeBackPanel.vue'
import { usePlaced } from './usePlaced'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { about, placements, reading, folders, categories, names, rows, ...placed } = usePlaced(id)
const { chosen, isOn, choose, begun, started, ordering, put } = placed
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const open = ref<'' | 'taking' | 'changing'>('')
</script>

<template>
  <AfterReading
    :reading="reading"
    :what="$t('deploy.placed.what_is_placed')"
    :none="!placements.length && $t('deploy.placed.nothing_is_placed_yet')"
    :none-means="$t('deploy.placed.what_you_place_from_this')"
  >
    <RolloutNote v-for="rollout in begun" :key="rollout.id" :rollout="rollout" />
    <ProblemNote :error="ordering.error.value" />
    <div class="row tools">
      <NCheckbox
        :checked="isOn(placements)"
        :indeterminate="!isOn(placements) && chosen.length > 0"
        @update:checked="(on: boolean) => choose(placements, on)"
        >{{ $t('deploy.placed.all', { link: $t('count.links', placements.length) }) }}</NCheckbox
      >
      <NButton
        size="small"
        :disabled="!chosen.length || !about?.may_change"
        @click="open = 'changing'"
        >{{ $t('deploy.placed.change', { chosen: chosen.length || '' }) }}</NButton
      >
      <NButton
        size="small"
        type="error"
        ghost
        :disabled="!chosen.length || !about?.may_change"
        @click="open = 'taking'"
        >{{ $t('deploy.placed.take_back', { chosen: chosen.length || '' }) }}</NButton
      >
      <span class="push">{{ $t('deploy.placed.sort_folders_and_gradebook') }}</span>
      <NButton
        v-for="[by, label] in [
          ['due', $t('deploy.how.by_due_date')],
          ['publisher', $t('deploy.placed.as_publisher')],
          ['unit', $t('deploy.how.by_unit')],
        ]"
        :key="by"
        size="small"
        :disabled="!about?.may_change"
        :loading="ordering.isPending.value"
        @click="ordering.mutate({ by })"
        >{{ label }}</NButton
      >
    </div>
    <p class="soft hint">{{ $t('deploy.placed.drag_a_link_or_press') }}</p>
    <TakeBackPanel
      v-if="open === 'taking'"
      :pairing="id"
      :placements="chosen"
      @close="open = ''"
      @begun="(rollout) => started([rollout])"
    />
    <ChangePanel
      v-if="open === 'changing'"
      :pairing="id"
      :placements="rows"
      :folders="names"
      :categories="categories"
      :zone="zone"
      @close="open = ''"
      @begun="started"
    />
    <PlacedFolder
      v-for="folder in folders"
      :key="folder.name"
      :rows="folder.rows"
      :zone="zone"
      :chosen="chosen"
      @choose="choose"
      @put="put"
    />
    <AveragePanel :pairing="id" :may-change="about?.may_change ?? false" />
  </AfterReading>
</template>

<style scoped>
.tools {
  margin-bottom: 0.3rem;
}
.hint {
  margin: 0 0 0.8rem;
}
@media (max-width: 640px) {
  .push {
    margin-left: 0;
  }
}
</style>
