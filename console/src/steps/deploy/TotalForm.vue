<script setup lang="ts">
import { NInputNumber } from 'naive-ui/es/input-number'
import { NInput } from 'naive-ui/es/input'
import { NCheckbox, NCheckboxGroup } from 'naive-ui/es/checkbox'
import LabeledField from '@/parts/LabeledField.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useTotal } from './useTotal'

const props = defineProps<{ pairing: string }>()
const emit = defineEmits<{ made: [average: Schemas['Average']] }>()
const { form, counting, categories, weighed, make } = useTotal(toRef(props, 'pairing'), (made) =>
  emit('made', made),
)
</script>

<template>
  <form @submit.prevent="make.mutate()">
    <div class="fields">
      <LabeledField :label="$t('deploy.total_form.title')">
        <NInput
          v-model:value="form.title"
          size="small"
          :maxlength="255"
          placeholder=""
          :input-props="{ 'aria-label': $t('deploy.total_form.title_of_the_column') }"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.total_form.points')">
        <NInput
          v-model:value="form.points"
          size="small"
          placeholder=""
          :input-props="{
            'aria-label': $t('deploy.total_form.points_of_the_column'),
            inputmode: 'decimal',
          }"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.total_form.items_weigh')">
        <ChooseOne
          v-model:value="form.weighting"
          :label="$t('deploy.total_form.how_items_weigh')"
          :options="[
            { value: 'equal', label: $t('deploy.total_form.alike_each_as_a_share') },
            { value: 'points', label: $t('deploy.total_form.by_their_points') },
            { value: 'categories', label: $t('deploy.total_form.by_the_weights_of_categories') },
          ]"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.total_form.missing_work')">
        <ChooseOne
          v-model:value="form.missing"
          :label="$t('deploy.total_form.what_missing_work_counts')"
          :options="[
            { value: 'until_due', label: $t('deploy.total_form.nothing_until_it_is_due') },
            { value: 'ignored', label: $t('deploy.total_form.never_counts') },
            { value: 'zero', label: $t('deploy.total_form.counts_zero_at_once') },
          ]"
        />
      </LabeledField>
      <LabeledField :label="$t('deploy.total_form.decimals')">
        <NInputNumber
          placeholder=""
          v-model:value="form.places"
          size="small"
          :show-button="false"
          :min="0"
          :max="4"
          :input-props="{ 'aria-label': $t('deploy.total_form.decimals') }"
        />
      </LabeledField>
      <NCheckbox v-model:checked="form.keeps_up">{{
        $t('deploy.total_form.keep_it_up_while_the')
      }}</NCheckbox>
    </div>
    <NCheckboxGroup v-if="categories.length" v-model:value="form.of" aria-labelledby="of">
      <p id="of" class="soft">
        {{
          form.of.length
            ? $t('deploy.total_form.only_these_categories_count')
            : $t('deploy.total_form.all_graded_items_with_points')
        }}
      </p>
      <span v-for="name in categories" :key="name" class="category">
        <NCheckbox :value="name">{{ name }}</NCheckbox>
        <template v-if="form.weighting === 'categories' && weighed.includes(name)"
          >{{ $t('deploy.total_form.weighs') }}
          <NInput
            v-model:value="form.weights[name]"
            class="weight"
            size="small"
            placeholder="1"
            :input-props="{
              'aria-label': $t('deploy.total_form.weight_of', { name }),
              inputmode: 'decimal',
            }"
        /></template>
      </span>
    </NCheckboxGroup>
    <ProblemNote :error="make.error.value" />
    <NButton
      size="small"
      attr-type="submit"
      :loading="make.isPending.value"
      :disabled="!counting.length"
      >{{ $t('deploy.total_form.make_the_column') }}</NButton
    >
  </form>
</template>

<style scoped>
.fields {
  width: 100%;
}
form {
  display: grid;
  gap: 0.7rem;
  justify-items: start;
  margin-top: 0.6rem;
}
.category {
  display: inline-flex;
  gap: 0.6rem;
  align-items: baseline;
}
.weight {
  width: 4rem;
}
</style>
