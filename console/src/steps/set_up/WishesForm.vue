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
/** Folders that are there, and one of the unit's own name. */
const options = (unit: string) =>
  [...new Set([unit, ...folders.value.filter((each) => each.node).map((each) => each.folder)])].map(
    (title) => ({ value: title, label: title === unit ? `${title} (new)` : title }),
  )
const shift = computed(() => lead.value?.shift ?? 0)
const scores: [Choices['scores'], string][] = [
  ['submission', 'As learners hand in'],
  ['due', 'After the due date'],
  ['later', 'Not yet'],
]
const ways: [Choices['access'], string][] = [
  ['', 'No page about it'],
  ['code', 'With an access code'],
  ['fee', 'By a course fee'],
  ['free', 'It costs nothing'],
]
</script>

<template>
  <section class="sheet" aria-labelledby="where">
    <h2 id="where">What and where</h2>
    <p class="soft">
      All graded items in the publisher's order, each with a column. Units go into these folders;
      the guess says why.
    </p>
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
        <span class="soft small">{{ choices.folders[each.unit] ? 'you chose it' : each.why }}</span>
      </li>
    </ul>
    <template v-if="undated || choices.undated !== 'ask'">
      <h3 id="undated">Items without a due date</h3>
      <NRadioGroup v-model:value="choices.undated" name="undated" aria-labelledby="undated">
        <NRadio value="ask">Leave them out ({{ undated || 'they are named' }})</NRadio>
        <NRadio value="column">Place them with a column</NRadio>
        <NRadio value="link">Place them as links only</NRadio>
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
    <h2>Scores and learners</h2>
    <h3 id="when">When scores go to the gradebook</h3>
    <NRadioGroup v-model:value="choices.scores" name="scores" aria-labelledby="when">
      <NRadio v-for="[value, words] in scores" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <h3 id="paid">How learners pay; a page at the top tells them what to do first</h3>
    <NRadioGroup v-model:value="choices.access" name="access" aria-labelledby="paid">
      <NRadio v-for="[value, words] in ways" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <h3>In the course's navigation</h3>
    <NCheckbox v-model:checked="choices.navigation"
      >Learners find Venn Pair there, with a page of their own homework</NCheckbox
    >
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
h3 {
  margin: 0.9rem 0 0.3rem;
  font-size: 1rem;
}
h2 + h3 {
  margin-top: 0.3rem;
}
h2:not(:first-child) {
  margin-top: 1.5rem;
}
section {
  margin: 1rem 0;
}
@media (max-width: 640px) {
  .units li {
    grid-template-columns: minmax(0, 1fr);
    margin-bottom: 0.5rem;
  }
}
</style>
