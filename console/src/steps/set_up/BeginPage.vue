<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from '@/steps/pair/ConsentPanel.vue'
import AccountStep from './AccountStep.vue'
import StationSteps from './StationSteps.vue'
import { isMade, useBegin } from './useBegin'

const {
  reading,
  open,
  left,
  chosen,
  course,
  names,
  guess,
  looking,
  why,
  options,
  wanted,
  toLink,
  begin,
} = useBegin()
</script>

<template>
  <div class="page">
    <h1>{{ $t('set_up.begin.set_up') }}</h1>
    <StationSteps :current="0" />
    <AfterReading
      :reading="reading"
      :what="$t('set_up.begin.your_shells')"
      :none="!open.length && $t('set_up.begin.every_shell_is_paired')"
    >
      <template #none>
        <p>
          <RouterLink to="/">{{ $t('set_up.begin.go_to_your_shells') }}</RouterLink>
        </p>
      </template>
      <p>
        {{ $t('set_up.begin.check_that_each_shell_has') }}
        <template v-if="left">{{
          $t('set_up.begin.open_venn_pair_there_to', {
            shell: $t('count.other_unpaired_shells', left),
          })
        }}</template>
      </p>
      <ul class="pairs">
        <li v-for="shell in open" :key="shell.id" class="sheet">
          <NCheckbox v-model:checked="chosen[shell.id]"
            ><strong class="right-ink">{{ shell.label }}</strong> {{ shell.title }}</NCheckbox
          >
          <ChooseOne
            v-model:value="course[shell.id]"
            size="medium"
            :label="$t('set_up.begin.course_of', { shell: shell.label })"
            :options="[]"
            :groups="options"
            filterable
            clearable
            :loading="looking"
            :placeholder="
              looking
                ? $t('set_up.begin.looking_for_the_course_that')
                : $t('set_up.begin.no_course_fits_choose_one')
            "
            @chosen="chosen[shell.id] = Boolean($event)"
          />
          <NInput
            v-if="course[shell.id] && isMade(course[shell.id]!)"
            v-model:value="names[shell.id]"
            class="second"
            size="small"
            :maxlength="200"
            :placeholder="$t('set_up.begin.its_name_at_the_publisher')"
            :input-props="{ 'aria-label': $t('set_up.begin.name_for', { shell: shell.label }) }"
          />
          <p class="soft second">
            {{
              why(shell.id) || (looking ? $t('set_up.begin.looking') : $t('set_up.begin.no_guess'))
            }}
            ·
            <RouterLink :to="{ name: 'choose-course', params: { shell: shell.id } }">{{
              $t('set_up.begin.search_all_courses')
            }}</RouterLink>
          </p>
        </li>
      </ul>
      <p class="soft">{{ $t('set_up.begin.is_a_section_missing_open') }}</p>
      <AccountStep v-for="account in toLink" :key="account.publisher" :account="account" />
      <h2>{{ $t('set_up.begin.your_agreement_for_each_of') }}</h2>
      <ConsentPanel :shell="open[0]!.id" />
      <ProblemNote :error="guess.error.value ?? begin.error.value" />
      <p class="foot">
        <NButton
          type="primary"
          :disabled="!wanted.length || looking || toLink.length > 0"
          :loading="begin.isPending.value"
          @click="begin.mutate()"
          >{{
            $t('set_up.begin.i_agree_pair', { section: $t('count.sections', wanted.length) })
          }}</NButton
        >
        <span class="soft">{{
          toLink.length
            ? $t('set_up.begin.link_your_account_above_first')
            : $t('set_up.begin.nothing_is_placed_yet_the')
        }}</span>
      </p>
    </AfterReading>
  </div>
</template>

<style scoped>
.pairs {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 0.6rem;
}
.pairs li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 0.3rem 1rem;
  align-items: center;
}
.second {
  grid-column: 2;
  margin: 0;
}
h2 {
  margin-top: 1.3rem;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 0.8rem;
  align-items: center;
  margin-top: 1rem;
}
@media (max-width: 640px) {
  .pairs li {
    grid-template-columns: minmax(0, 1fr);
  }
  .second {
    grid-column: 1;
  }
}
</style>
