<script setup lang="ts">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import { NSelect } from 'naive-ui/es/select'
import type { Choices } from './useSetUp'

const choices = defineModel<Choices>('choices', { required: true })
const scores: [Choices['scores'], string][] = [
  ['submission', 'As learners hand in'],
  ['due', 'After the due date'],
  ['later', 'Not yet'],
]
const categories = [
  { value: 'publisher', label: 'As at the publisher' },
  { value: 'none', label: 'No category' },
]
const access: [Choices['access'], string][] = [
  ['', 'No page about it'],
  ['code', 'With an access code'],
  ['fee', 'By a course fee'],
  ['free', 'It costs nothing'],
]
</script>

<template>
  <section class="sheet form" aria-labelledby="learners">
    <h2 id="learners">Scores and learners</h2>
    <h3 id="when">When scores go to the gradebook</h3>
    <NRadioGroup v-model:value="choices.scores" name="scores" aria-labelledby="when">
      <NRadio v-for="[value, words] in scores" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <template v-if="choices.way === 'columns'">
      <h3 id="category">The category of the columns</h3>
      <NSelect
        v-model:value="choices.category"
        :options="categories"
        filterable
        tag
        size="small"
        class="category"
        :input-props="{ 'aria-label': 'Category of the columns' }"
      />
      <h3>What learners see</h3>
      <NCheckbox v-model:checked="choices.columnsShown"
        >Learners see the scores in the new columns at once</NCheckbox
      >
    </template>
    <template v-if="choices.way !== 'average'">
      <h3>A total</h3>
      <NCheckbox v-model:checked="choices.total"
        >One more column with a total of all homework, kept up to date</NCheckbox
      >
    </template>
    <h3 id="paid">How learners pay; a page at the top tells them what to do first</h3>
    <NRadioGroup v-model:value="choices.access" name="access" aria-labelledby="paid">
      <NRadio v-for="[value, words] in access" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <h3>In the course’s navigation</h3>
    <NCheckbox v-model:checked="choices.navigation"
      >Learners find Venn Pair there, with a page of their own homework</NCheckbox
    >
  </section>
</template>

<style scoped>
.category {
  max-width: 22rem;
}
</style>
