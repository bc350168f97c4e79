<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import { NSelect } from 'naive-ui/es/select'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import type { Choices } from './useSetUp'

const props = defineProps<{ plan: Schemas['SetUpPlan'] }>()
const choices = defineModel<Choices>('choices', { required: true })
const lead = computed(() => props.plan.sections.find((each) => each.plan))
const undated = computed(
  () =>
    lead.value?.plan?.notices.filter((each) => each.code === 'due_missing' && each.level !== 'note')
      .length ?? 0,
)
const folders = computed(() => lead.value?.folders ?? [])
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
    (title) => ({ value: title, label: title === unit ? `${title} (new)` : title }),
  )
const shift = computed(() => lead.value?.shift ?? 0)
const ways: [Choices['way'], string][] = [
  ['columns', 'Every graded item, each with a column'],
  ['average', 'Every graded item as a link, and one column with their average'],
  ['course', 'One link to the homework course, and no column'],
]
const review: [Choices['review'], string][] = [
  ['keep', 'Place them like the others'],
  ['hide', 'Place them hidden from learners'],
  ['leave_out', 'Leave them out'],
]
</script>

<template>
  <section class="sheet form" aria-labelledby="where">
    <h2 id="where">What and where</h2>
    <NRadioGroup v-model:value="choices.way" name="way" aria-labelledby="where" class="below">
      <NRadio v-for="[value, words] in ways" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <template v-if="choices.way !== 'course'">
      <h3>The folder for each unit</h3>
      <ul class="units">
        <li v-for="each in folders" :key="each.unit">
          <span class="left-ink">{{ each.unit }}</span>
          <NSelect
            :value="choices.folders[each.unit] ?? each.folder"
            :options="options(each.unit)"
            filterable
            tag
            size="small"
            :input-props="{ 'aria-label': `Folder for ${each.unit}` }"
            @update:value="(folder: string) => (choices.folders[each.unit] = folder)"
          />
          <span class="soft small">{{
            choices.folders[each.unit]
              ? 'you chose it, for all'
              : [each.why, elsewhere(each.unit, each.folder)].filter(Boolean).join('; ')
          }}</span>
        </li>
      </ul>
      <template v-if="lead?.there || choices.update">
        <h3 id="there">{{ many(lead?.there ?? 0, 'link') }} in the shell already</h3>
        <NRadioGroup v-model:value="choices.update" name="there" aria-labelledby="there">
          <NRadio :value="false">Leave as they are</NRadio>
          <NRadio :value="true">Bring dates, titles and columns up to date</NRadio>
        </NRadioGroup>
      </template>
      <template v-if="undated || choices.undated !== 'ask'">
        <h3 id="undated">Items without a due date</h3>
        <NRadioGroup v-model:value="choices.undated" name="undated" aria-labelledby="undated">
          <NRadio value="ask">Leave them out ({{ undated || 'they are named' }})</NRadio>
          <NRadio value="column">Place them with a column</NRadio>
          <NRadio value="link">Place them as links only</NRadio>
        </NRadioGroup>
      </template>
      <template v-if="lead?.review || choices.review !== 'keep'">
        <h3 id="review">Review and optional units</h3>
        <NRadioGroup v-model:value="choices.review" name="review" aria-labelledby="review">
          <NRadio v-for="[value, words] in review" :key="value" :value="value">{{ words }}</NRadio>
        </NRadioGroup>
      </template>
      <template v-if="shift || choices.shift">
        <h3>Dates</h3>
        <p v-if="choices.shift">
          All dates move by {{ many(choices.shift, 'day') }}.
          <NButton size="small" @click="choices.shift = 0">Leave them as they are</NButton>
        </p>
        <p v-else>
          The first due date is past.
          <NButton size="small" @click="choices.shift = shift"
            >Move all dates by {{ many(shift / 7, 'week') }}</NButton
          >
        </p>
      </template>
    </template>
    <template v-if="lead?.readings">
      <h3>Readings and videos</h3>
      <NCheckbox v-model:checked="choices.readings"
        >Bring in the {{ many(lead.readings, 'reading or video', 'readings and videos') }} of the
        package too, each in its unit’s folder</NCheckbox
      >
    </template>
  </section>
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
