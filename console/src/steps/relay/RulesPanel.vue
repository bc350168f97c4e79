<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NTimePicker } from 'naive-ui/es/time-picker'
import { toRef } from 'vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useRules } from './useRules'

/** What goes, which attempt counts, in which numbers, and when: said in a sentence first, changed for all, a category or an item. */
const props = defineProps<{ pairing: string; mayChange: boolean }>()
const { rules, isPending, error, scope, key, chosen, categories, own, foresee, change } = useRules(
  toRef(props, 'pairing'),
)
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
      <div class="grid">
        <div class="field">
          <span>{{ $t('relay.rules.for') }}</span>
          <ChooseOne
            v-model:value="scope"
            :label="$t('relay.rules.for')"
            :options="[
              { value: 'all', label: $t('relay.rules.all_items') },
              { value: 'category', label: $t('relay.rules.a_category') },
              { value: 'item', label: $t('relay.rules.one_item') },
            ]"
          />
        </div>
        <div v-if="scope === 'category'" class="field">
          <span>{{ $t('relay.rules.category') }}</span>
          <ChooseOne
            v-model:value="key"
            :label="$t('relay.rules.category')"
            :options="[...categories.map((each) => ({ value: each, label: each }))]"
          />
        </div>
        <div v-if="scope === 'item'" class="field">
          <span>{{ $t('relay.rules.item') }}</span>
          <ChooseOne
            v-model:value="key"
            :label="$t('relay.rules.item')"
            :options="[...rules.items.map((each) => ({ value: each.item, label: each.title }))]"
          />
        </div>
        <div class="field">
          <span>{{ $t('relay.rules.scores') }}</span>
          <ChooseOne
            v-model:value="chosen.relays"
            :label="$t('relay.rules.scores')"
            :options="[
              { value: true, label: $t('relay.rules.go_to_the_gradebook') },
              { value: false, label: $t('relay.rules.stay_here') },
            ]"
          />
        </div>
        <div class="field">
          <span>{{ $t('relay.rules.when') }}</span>
          <ChooseOne
            v-model:value="chosen.when"
            :label="$t('relay.rules.when')"
            :options="[
              { value: 'submission', label: $t('relay.rules.as_learners_hand_in') },
              { value: 'due', label: $t('relay.rules.all_at_once_after_the') },
              { value: 'daily', label: $t('relay.rules.every_day_at_a_time') },
              { value: 'hand', label: $t('relay.rules.when_i_release_them') },
            ]"
          />
        </div>
        <div v-if="chosen.when === 'daily'" class="field">
          <span>{{ $t('relay.rules.at') }}</span>
          <NTimePicker
            v-model:formatted-value="chosen.at"
            value-format="HH:mm"
            format="HH:mm"
            size="small"
            :input-props="{ 'aria-label': $t('relay.rules.at') }"
          />
        </div>
        <div v-if="chosen.when === 'due' || chosen.when === 'hand'" class="field">
          <span>{{ $t('relay.rules.later_work') }}</span>
          <ChooseOne
            v-model:value="chosen.late"
            :label="$t('relay.rules.later_work')"
            :options="[
              { value: 'at_once', label: $t('relay.rules.goes_at_once') },
              { value: 'hand', label: $t('relay.rules.waits_for_me') },
            ]"
          />
        </div>
        <div class="field">
          <span>{{ $t('relay.rules.which_attempt') }}</span>
          <ChooseOne
            v-model:value="chosen.counts"
            :label="$t('relay.rules.which_attempt')"
            :options="[
              { value: 'publisher', label: $t('relay.rules.as_the_publisher_counts') },
              { value: 'last', label: $t('relay.rules.the_last'), disabled: !rules.attempts },
              { value: 'best', label: $t('relay.rules.the_best'), disabled: !rules.attempts },
              { value: 'first', label: $t('relay.rules.the_first'), disabled: !rules.attempts },
              {
                value: 'mean',
                label: $t('relay.rules.the_mean_of_all'),
                disabled: !rules.attempts,
              },
            ]"
          />
        </div>
        <div class="field">
          <span>{{ $t('relay.rules.numbers') }}</span>
          <ChooseOne
            v-model:value="chosen.points"
            :label="$t('relay.rules.numbers')"
            :options="[
              { value: 'given', label: $t('relay.rules.as_the_publisher_states_them') },
              { value: 'column', label: $t('relay.rules.in_the_columns_points') },
            ]"
          />
        </div>
        <div v-if="chosen.points === 'column'" class="field">
          <span>{{ $t('relay.rules.rounded_to') }}</span>
          <ChooseOne
            v-model:value="chosen.places"
            :label="$t('relay.rules.rounded_to')"
            :options="[
              { value: null, label: $t('relay.rules.not_rounded') },
              ...[0, 1, 2, 3, 4].map((each) => ({
                value: each,
                label: each ? $t('relay.rules.decimals', { each }) : $t('relay.rules.whole_points'),
              })),
            ]"
          />
        </div>
        <NCheckbox v-model:checked="chosen.comments" class="tick">{{
          $t('relay.rules.with_comments')
        }}</NCheckbox>
        <NCheckbox v-model:checked="chosen.statuses" class="tick">{{
          $t('relay.rules.with_progress_before_there_is')
        }}</NCheckbox>
        <NCheckbox v-model:checked="chosen.look_first" class="tick">{{
          $t('relay.rules.learners_see_the_column_when')
        }}</NCheckbox>
      </div>
      <p v-if="foresee.data.value" class="foreseen">
        {{
          $t('relay.rules.looked_at_anew', {
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
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: 0.5rem 1rem;
  margin-bottom: 0.7rem;
}
.field {
  display: grid;
  gap: 0.1rem;
  align-content: start;
  font-size: 0.86rem;
  color: var(--soft);
}
.field.tick {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  color: inherit;
  font-size: inherit;
}
.foreseen {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.4rem 0.7rem;
}
</style>
