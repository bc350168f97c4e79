<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from '@/steps/pair/ConsentPanel.vue'
import AccountStep from './AccountStep.vue'
import ShellCourse from './ShellCourse.vue'
import StationSteps from './StationSteps.vue'
import { useBegin } from './useBegin'

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
          <RouterLink :to="{ name: 'shells' }">{{
            $t('set_up.begin.go_to_your_shells')
          }}</RouterLink>
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
        <ShellCourse
          v-for="shell in open"
          :key="shell.id"
          v-model:chosen="chosen[shell.id]"
          v-model:course="course[shell.id]"
          v-model:name="names[shell.id]"
          :shell="shell"
          :options="options"
          :looking="looking"
          :why="why(shell.id)"
        />
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
</style>
