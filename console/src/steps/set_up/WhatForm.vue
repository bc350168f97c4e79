<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NRadio, NRadioGroup } from 'naive-ui/es/radio'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import UnitFolders from './UnitFolders.vue'
import type { Choices } from './useSetUp'
import { t } from '@/words'

const props = defineProps<{ plan: Schemas['SetUpPlan'] }>()
const choices = defineModel<Choices>('choices', { required: true })
const lead = computed(() => props.plan.sections.find((each) => each.plan))
const undated = computed(
  () =>
    lead.value?.plan?.notices.filter((each) => each.code === 'due_missing' && each.level !== 'note')
      .length ?? 0,
)
const shift = computed(() => lead.value?.shift ?? 0)
const ways: [Choices['way'], string][] = [
  ['columns', t('set_up.what_form.every_graded_item_each_with')],
  ['average', t('set_up.what_form.every_graded_item_as_a')],
  ['course', t('set_up.what_form.one_link_to_the_homework')],
]
const review: [Choices['review'], string][] = [
  ['keep', t('set_up.what_form.place_them_like_the_others')],
  ['hide', t('set_up.what_form.place_them_hidden_from_learners')],
  ['leave_out', t('set_up.what_form.leave_them_out_2')],
]
</script>

<template>
  <section class="sheet form" aria-labelledby="where">
    <h2 id="where">{{ $t('set_up.what_form.what_and_where') }}</h2>
    <NRadioGroup v-model:value="choices.way" name="way" aria-labelledby="where" class="below">
      <NRadio v-for="[value, words] in ways" :key="value" :value="value">{{ words }}</NRadio>
    </NRadioGroup>
    <template v-if="choices.way !== 'course'">
      <h3>{{ $t('set_up.what_form.the_folder_for_each_unit') }}</h3>
      <UnitFolders v-model="choices.folders" :plan="plan" />
      <template v-if="lead?.there || choices.update">
        <h3 id="there">
          {{
            $t('set_up.what_form.in_the_shell_already', {
              link: $t('count.links', lead?.there ?? 0),
            })
          }}
        </h3>
        <NRadioGroup v-model:value="choices.update" name="there" aria-labelledby="there">
          <NRadio :value="false">{{ $t('set_up.what_form.leave_as_they_are') }}</NRadio>
          <NRadio :value="true">{{ $t('set_up.what_form.bring_dates_titles_and_columns') }}</NRadio>
        </NRadioGroup>
      </template>
      <template v-if="undated || choices.undated !== 'ask'">
        <h3 id="undated">{{ $t('set_up.what_form.items_without_a_due_date') }}</h3>
        <NRadioGroup v-model:value="choices.undated" name="undated" aria-labelledby="undated">
          <NRadio value="ask">{{
            $t('set_up.what_form.leave_them_out', {
              named: undated || $t('set_up.what_form.they_are_named'),
            })
          }}</NRadio>
          <NRadio value="column">{{ $t('set_up.what_form.place_them_with_a_column') }}</NRadio>
          <NRadio value="link">{{ $t('set_up.what_form.place_them_as_links_only') }}</NRadio>
        </NRadioGroup>
      </template>
      <template v-if="lead?.review || choices.review !== 'keep'">
        <h3 id="review">{{ $t('set_up.what_form.review_and_optional_units') }}</h3>
        <NRadioGroup v-model:value="choices.review" name="review" aria-labelledby="review">
          <NRadio v-for="[value, words] in review" :key="value" :value="value">{{ words }}</NRadio>
        </NRadioGroup>
      </template>
      <template v-if="shift || choices.shift">
        <h3>{{ $t('set_up.what_form.dates') }}</h3>
        <p v-if="choices.shift">
          {{ $t('set_up.what_form.all_dates_move_by', { day: $t('count.days', choices.shift) }) }}
          <NButton size="small" @click="choices.shift = 0">{{
            $t('set_up.what_form.leave_them_as_they_are')
          }}</NButton>
        </p>
        <p v-else>
          {{ $t('set_up.what_form.the_first_due_date_is') }}
          <NButton size="small" @click="choices.shift = shift">{{
            $t('set_up.what_form.move_all_dates_by', { week: $t('count.weeks', shift / 7) })
          }}</NButton>
        </p>
      </template>
    </template>
    <template v-if="lead?.readings">
      <h3>{{ $t('set_up.what_form.readings_and_videos') }}</h3>
      <NCheckbox v-model:checked="choices.readings">{{
        $t('set_up.what_form.bring_in_the_of_the', {
          videos: $t('count.readings_and_videos', lead.readings),
        })
      }}</NCheckbox>
    </template>
  </section>
</template>
