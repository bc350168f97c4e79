<script setup lang="ts">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import ChooseOne from '@/parts/ChooseOne.vue'
import { isMade, type offersOf } from './useBegin'

/** One shell with the course that it gets: guessed, chosen, or made under a name. */
defineProps<{
  shell: Schemas['Shell']
  options: ReturnType<typeof offersOf>
  /** The course that fits is being looked for. */
  looking: boolean
  why: string
}>()
const chosen = defineModel<boolean>('chosen')
const course = defineModel<string | null>('course')
const name = defineModel<string>('name')
</script>

<template>
  <li class="sheet">
    <NCheckbox v-model:checked="chosen"
      ><strong class="right-ink">{{ shell.label }}</strong> {{ shell.title }}</NCheckbox
    >
    <ChooseOne
      v-model:value="course"
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
      @chosen="chosen = Boolean($event)"
    />
    <NInput
      v-if="course && isMade(course)"
      v-model:value="name"
      class="second"
      size="small"
      :maxlength="200"
      :placeholder="$t('set_up.begin.its_name_at_the_publisher')"
      :input-props="{ 'aria-label': $t('set_up.begin.name_for', { shell: shell.label }) }"
    />
    <p class="soft second">
      {{ why || (looking ? $t('set_up.begin.looking') : $t('set_up.begin.no_guess')) }}
      ·
      <RouterLink :to="{ name: 'choose-course', params: { shell: shell.id } }">{{
        $t('set_up.begin.search_all_courses')
      }}</RouterLink>
    </p>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 0.3rem 1rem;
  align-items: center;
}
.second {
  grid-column: 2;
  margin: 0;
}
@media (max-width: 640px) {
  li {
    grid-template-columns: minmax(0, 1fr);
  }
  .second {
    grid-column: 1;
  }
}
</style>
