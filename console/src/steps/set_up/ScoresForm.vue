<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import type { Choices } from './useSetUp'
import { t } from '@/words'

const choices = defineModel<Choices>('choices', { required: true })
const scores: [Choices['scores'], string][] = [
  ['submission', t('set_up.scores_form.as_learners_hand_in')],
  ['due', t('set_up.scores_form.after_the_due_date')],
  ['later', t('set_up.scores_form.not_yet')],
]
const categories = [
  { value: 'publisher', label: t('set_up.scores_form.as_at_the_publisher') },
  { value: 'none', label: t('set_up.scores_form.no_category') },
]
const access: [Choices['access'], string][] = [
  ['', t('set_up.scores_form.no_page_about_it')],
  ['code', t('set_up.scores_form.with_an_access_code')],
  ['fee', t('set_up.scores_form.by_a_course_fee')],
  ['free', t('set_up.scores_form.it_costs_nothing')],
]
</script>

<template>
  <section class="sheet form" aria-labelledby="learners">
    <h2 id="learners">{{ $t('set_up.scores_form.scores_and_learners') }}</h2>
    <h3 id="when">{{ $t('set_up.scores_form.when_scores_go_to_the') }}</h3>
    <NRadioGroup v-model:value="choices.scores" name="scores" aria-labelledby="when">
      <NRadio v-for="[value, words] in scores" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <template v-if="choices.way === 'columns'">
      <h3 id="category">{{ $t('set_up.scores_form.the_category_of_the_columns') }}</h3>
      <ChooseOne
        v-model:value="choices.category"
        :options="categories"
        filterable
        tag
        class="category"
        labelledby="category"
      />
      <h3>{{ $t('set_up.scores_form.what_learners_see') }}</h3>
      <NCheckbox v-model:checked="choices.columnsShown">{{
        $t('set_up.scores_form.learners_see_the_scores_in')
      }}</NCheckbox>
    </template>
    <template v-if="choices.way !== 'average'">
      <h3>{{ $t('set_up.scores_form.a_total') }}</h3>
      <NCheckbox v-model:checked="choices.total">{{
        $t('set_up.scores_form.one_more_column_with_a')
      }}</NCheckbox>
    </template>
    <h3 id="paid">{{ $t('set_up.scores_form.how_learners_pay_a_page') }}</h3>
    <NRadioGroup v-model:value="choices.access" name="access" aria-labelledby="paid">
      <NRadio v-for="[value, words] in access" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <h3>{{ $t('set_up.scores_form.in_the_courses_navigation') }}</h3>
    <NCheckbox v-model:checked="choices.navigation">{{
      $t('set_up.scores_form.learners_find_venn_pair_there')
    }}</NCheckbox>
  </section>
</template>

<style scoped>
.category {
  max-width: 22rem;
}
</style>
