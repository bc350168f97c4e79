<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { NSelect } from 'naive-ui/es/select'
import { RouterLink } from 'vue-router'
import { many } from '@/logic/counting'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from '@/steps/pair/ConsentPanel.vue'
import AccountStep from './AccountStep.vue'
import StationSteps from './StationSteps.vue'
import { isMade, useBegin } from './useBegin'

const {
  shells,
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
    <h1>Set up</h1>
    <StationSteps :current="0" />
    <LoadingNote v-if="!shells" what="your shells" />
    <EmptyNote v-else-if="!open.length" title="Every shell is paired">
      <p><RouterLink to="/">Go to your shells</RouterLink></p>
    </EmptyNote>
    <template v-else>
      <p>
        Check that each shell has the right homework course. Change what is not right.
        <template v-if="left"
          >{{ many(left, 'other unpaired shell') }}: open Venn Pair there to set it up with those of
          its title.</template
        >
      </p>
      <ul class="pairs">
        <li v-for="shell in open" :key="shell.id" class="sheet">
          <NCheckbox v-model:checked="chosen[shell.id]"
            ><strong class="right-ink">{{ shell.label }}</strong> {{ shell.title }}</NCheckbox
          >
          <NSelect
            v-model:value="course[shell.id]"
            :options="options"
            filterable
            clearable
            :loading="looking"
            :placeholder="
              looking ? 'Looking for the course that fits' : 'No course fits: choose one'
            "
            :input-props="{ 'aria-label': `Homework course of ${shell.label}` }"
            @update:value="(now) => (chosen[shell.id] = Boolean(now))"
          />
          <NInput
            v-if="course[shell.id] && isMade(course[shell.id]!)"
            v-model:value="names[shell.id]"
            class="second"
            size="small"
            :maxlength="200"
            placeholder="Its name at the publisher; empty: the title’s"
            :input-props="{ 'aria-label': `Name of the new course for ${shell.label}` }"
          />
          <p class="soft second">
            {{ why(shell.id) || (looking ? 'looking' : 'no guess') }} ·
            <RouterLink :to="{ name: 'choose-course', params: { shell: shell.id } }"
              >Search all courses</RouterLink
            >
          </p>
        </li>
      </ul>
      <p class="soft">Is a section missing? Open Venn Pair there once; it then appears here.</p>
      <AccountStep v-for="account in toLink" :key="account.publisher" :account="account" />
      <h2>Your agreement, for each of them, once</h2>
      <ConsentPanel :shell="open[0]!.id" />
      <ProblemNote :error="guess.error.value ?? begin.error.value" />
      <p class="foot">
        <NButton
          type="primary"
          :disabled="!wanted.length || looking || toLink.length > 0"
          :loading="begin.isPending.value"
          @click="begin.mutate()"
          >I agree: pair {{ many(wanted.length, 'section') }}</NButton
        >
        <span class="soft">{{
          toLink.length
            ? 'Link your account above first.'
            : 'Nothing is placed yet: the plan comes next.'
        }}</span>
      </p>
    </template>
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
