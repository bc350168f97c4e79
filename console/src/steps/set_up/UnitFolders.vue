<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ChooseOne from '@/parts/ChooseOne.vue'
import { t } from '@/words'

/** The folder of each unit: found, or chosen for all shells. */
const props = defineProps<{ plan: Schemas['SetUpPlan'] }>()
/** The titles of the folders that were chosen, by unit. */
const chosen = defineModel<Record<string, string>>({ required: true })
const folders = computed(() => props.plan.sections.find((each) => each.plan)?.folders ?? [])
/** Where a unit goes in other shells, where that is not where it goes in the first. */
const elsewhere = (unit: string, folder: string) =>
  props.plan.sections
    .map((each) => [each.name, each.folders.find((one) => one.unit === unit)?.folder] as const)
    .filter(([, there]) => there && there !== folder)
    .map(([name, there]) => `${name}: ${there}`)
    .join('; ')
/** Folders that are there, and one of the unit's own name. */
const options = (unit: string) =>
  [...new Set([unit, ...folders.value.filter((each) => each.node).map((each) => each.folder)])].map(
    (title) => ({
      value: title,
      label: title === unit ? t('set_up.what_form.new', { title }) : title,
    }),
  )
</script>

<template>
  <ul class="units">
    <li v-for="each in folders" :key="each.unit">
      <span class="left-ink">{{ each.unit }}</span>
      <ChooseOne
        :label="$t('set_up.what_form.folder_for', { unit: each.unit })"
        :value="chosen[each.unit] ?? each.folder"
        :options="options(each.unit)"
        filterable
        tag
        @chosen="chosen = { ...chosen, [each.unit]: $event }"
      />
      <span class="soft small">{{
        chosen[each.unit]
          ? $t('set_up.what_form.you_chose_it_for_all')
          : [each.why, elsewhere(each.unit, each.folder)].filter(Boolean).join('; ')
      }}</span>
    </li>
  </ul>
</template>

<style scoped>
.units {
  list-style: none;
  padding: 0;
  display: grid;
  gap: 0.35rem;
}
.units li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) minmax(0, 0.9fr);
  gap: 0.2rem 0.9rem;
  align-items: center;
}
.small {
  font-size: 0.88rem;
}
@media (max-width: 640px) {
  .units li {
    grid-template-columns: minmax(0, 1fr);
    margin-bottom: 0.5rem;
  }
}
</style>
