<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NTimePicker } from 'naive-ui/es/time-picker'
import { computed, toRef } from 'vue'
import LabeledField from '@/parts/LabeledField.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { ruleFields } from './ruleFields'
import { useRules } from './useRules'

/** What goes, which attempt counts, in which numbers, and when: said in a sentence first, changed for all, a category or an item. */
const props = defineProps<{ pairing: string; mayChange: boolean }>()
const all = useRules(toRef(props, 'pairing'))
const { rules, isPending, error, chosen, own, foresee, change } = all
const fields = computed(() => ruleFields(all))
</script>

<template>
  <MoreBelow sheet :title="$t('relay.rules.what_goes_and_when')">
    <template #title>
      <h2>{{ $t('relay.rules.what_goes_and_when') }}</h2>
      <span class="soft">{{ rules?.words }}</span>
    </template>
    <LoadingNote v-if="isPending" :what="$t('relay.rules.the_rules')" />
    <ProblemNote :error="error" />
    <div v-if="rules" role="group" :aria-label="$t('relay.rules.the_rule')">
      <div class="fields">
        <LabeledField v-for="field in fields" :key="field.label" :label="field.label">
          <NTimePicker
            v-if="field.time"
            v-model:formatted-value="chosen.at"
            value-format="HH:mm"
            format="HH:mm"
            size="small"
            :input-props="{ 'aria-label': field.label }"
          />
          <ChooseOne
            v-else
            :value="field.value"
            :label="field.label"
            :options="field.options"
            @chosen="field.choose($event)"
          />
        </LabeledField>
        <NCheckbox v-model:checked="chosen.comments">{{
          $t('relay.rules.with_comments')
        }}</NCheckbox>
        <NCheckbox v-model:checked="chosen.statuses">{{
          $t('relay.rules.with_progress_before_there_is')
        }}</NCheckbox>
        <NCheckbox v-model:checked="chosen.look_first">{{
          $t('relay.rules.learners_see_the_column_when')
        }}</NCheckbox>
      </div>
      <p v-if="foresee.data.value" class="foreseen">
        {{
          $t('relay.rules.looked_at_again', {
            words: foresee.data.value.words,
            are: $t('count.scores_are', foresee.data.value.cells),
          })
        }}
      </p>
      <div v-if="mayChange" class="row">
        <NButton
          v-if="!foresee.data.value"
          size="small"
          :loading="foresee.isPending.value"
          @click="foresee.mutate()"
          >{{ $t('relay.rules.what_would_that_mean') }}</NButton
        >
        <NButton
          v-else
          size="small"
          type="primary"
          :loading="change.isPending.value"
          @click="change.mutate(undefined)"
          >{{ $t('relay.rules.change_it') }}</NButton
        >
        <NButton
          v-if="Object.keys(own).length"
          size="small"
          quaternary
          @click="change.mutate({})"
          >{{ $t('relay.rules.take_back_what_was_chosen') }}</NButton
        >
      </div>
    </div>
  </MoreBelow>
</template>

<style scoped>
h2 {
  display: inline;
}
.fields {
  margin-bottom: 0.7rem;
}
.foreseen {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.4rem 0.7rem;
}
</style>
