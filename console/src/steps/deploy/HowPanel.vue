<script setup lang="ts">
import { computed } from 'vue'
import WhenField from '@/parts/WhenField.vue'
import { NInputNumber } from 'naive-ui/es/input-number'
import { NCheckbox } from 'naive-ui/es/checkbox'
import ChooseOne from '@/parts/ChooseOne.vue'
import LabeledField from '@/parts/LabeledField.vue'
import { NInput } from 'naive-ui/es/input'
import type { How } from './sheet'
import { t } from '@/words'

/** The sheet's fields; changed in place. */
const how = defineModel<How>({ required: true })
const props = defineProps<{ categories: string[]; picking?: boolean }>()
const named = computed(() => [
  { value: 'publisher', label: t('deploy.how.the_publishers') },
  { value: 'none', label: t('deploy.how.none') },
  ...props.categories.map((each) => ({ value: each, label: each })),
])
const TRADE = {
  column: t('deploy.how.each_graded_item_becomes_a'),
  link: t('deploy.how.learners_open_the_items_but'),
}
</script>

<template>
  <div role="group" :aria-label="$t('deploy.how.how_they_are_to_stand')">
    <div class="fields">
      <LabeledField :label="$t('deploy.how.graded_items')">
        <ChooseOne
          v-model:value="how.graded"
          :label="$t('deploy.how.graded_items')"
          :options="[
            { value: 'column', label: $t('deploy.how.with_a_column_each') },
            { value: 'link', label: $t('deploy.how.as_links_only') },
          ]"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.how.without_a_date')">
        <ChooseOne
          v-model:value="how.undated"
          :label="$t('deploy.how.without_a_date')"
          :options="[
            { value: 'ask', label: $t('deploy.how.leave_out_and_ask') },
            { value: 'column', label: $t('deploy.how.with_a_column') },
            { value: 'link', label: $t('deploy.how.as_a_link_only') },
          ]"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.how.category')">
        <ChooseOne
          v-model:value="how.category"
          filterable
          tag
          :label="$t('deploy.how.category')"
          :options="named"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.how.order')">
        <ChooseOne
          v-model:value="how.by"
          :label="$t('deploy.how.order')"
          :options="[
            { value: 'publisher', label: $t('deploy.how.the_publishers') },
            { value: 'due', label: $t('deploy.how.by_due_date') },
            { value: 'unit', label: $t('deploy.how.by_unit') },
            { value: 'chosen', label: $t('deploy.how.as_i_chose_them') },
          ]"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.how.learners')">
        <ChooseOne
          v-model:value="how.show"
          :label="$t('deploy.how.learners')"
          :options="[
            { value: 'shown', label: $t('deploy.how.see_them_at_once') },
            { value: 'before', label: $t('deploy.how.see_them_before_they_are') },
            { value: 'from', label: $t('deploy.how.see_them_from_a_day') },
            { value: 'hidden', label: $t('deploy.how.do_not_see_them') },
          ]"
        />
      </LabeledField>
      <LabeledField v-if="how.show === 'before'" :label="$t('deploy.how.days_before')">
        <NInputNumber
          placeholder=""
          v-model:value="how.before"
          size="small"
          :show-button="false"
          :min="0"
          :max="365"
          :input-props="{ 'aria-label': $t('deploy.how.days_before') }"
        />
      </LabeledField>
      <LabeledField v-if="how.show === 'from'" :label="$t('deploy.how.from')">
        <WhenField v-model:value="how.from" kind="datetime" :label="$t('deploy.how.from')" />
      </LabeledField>
      <LabeledField :label="$t('deploy.how.opens')">
        <ChooseOne
          v-model:value="how.window"
          :label="$t('deploy.how.opens')"
          :options="[
            { value: false, label: $t('deploy.how.in_place') },
            { value: true, label: $t('deploy.how.in_a_new_window') },
          ]"
        />
      </LabeledField>
      <label class="wide"
        >{{ $t('deploy.how.titles') }}
        <NInput
          v-model:value="how.pattern"
          size="small"
          :placeholder="$t('deploy.how.as_they_are_or_for')"
          :input-props="{ 'aria-label': $t('deploy.how.pattern') }"
      /></label>
      <template v-if="!picking">
        <NCheckbox v-model:checked="how.update">{{
          $t('deploy.how.bring_up_to_date_what')
        }}</NCheckbox>
        <NCheckbox v-model:checked="how.move">{{ $t('deploy.how.move_it_here_too') }}</NCheckbox>
      </template>
    </div>
    <p class="soft">
      {{ $t('deploy.how.points_and_due_dates_are', { graded: TRADE[how.graded] }) }}
    </p>
  </div>
</template>

<style scoped>
.wide {
  grid-column: span 2;
}
p {
  margin: 0.6rem 0 0;
  font-size: 0.9rem;
}
@media (max-width: 640px) {
  .wide {
    grid-column: auto;
  }
}
</style>
