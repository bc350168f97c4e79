<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NSelect } from 'naive-ui/es/select'
import { computed, ref, watch } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { many } from '@/logic/counting'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from '@/steps/pair/ConsentPanel.vue'
import { coursesQuery, shellsQuery } from '@/steps/pair/queries'
import StationSteps from './StationSteps.vue'

const MOST = 40 // sections on one page; whoever has more unpaired comes from one of them
const route = useRoute()
const router = useRouter()
const { data: shells } = useQuery(shellsQuery())
const unpaired = computed(() =>
  (shells.value?.results ?? []).filter((each) => !each.pairing && !each.copied),
)
/** The shell that one came from, and the others of its title; without one, all that are unpaired. */
const open = computed(() => {
  const from = unpaired.value.find((each) => each.id === route.query.shell)
  const rows = from ? unpaired.value.filter((each) => each.title === from.title) : unpaired.value
  return [...rows]
    .sort((a, b) => Number(b === from) - Number(a === from) || a.label.localeCompare(b.label))
    .slice(0, MOST)
})
const left = computed(() => unpaired.value.length - open.value.length)
const { data: courses } = useQuery(computed(() => coursesQuery('', '', false)))
const chosen = ref<Record<string, boolean>>({})
const course = ref<Record<string, string | null>>({})
const guess = useMutation({
  mutationFn: (ids: string[]) =>
    answered(api.POST('/api/v1/pairings/several', { body: { shells: ids } })),
  onSuccess: (rows) => {
    course.value = Object.fromEntries(rows.map((row) => [row.shell, row.course ?? null]))
    // None is ticked that nothing fits.
    chosen.value = Object.fromEntries(rows.map((row) => [row.shell, Boolean(row.course)]))
  },
})
watch(
  open,
  (now) => {
    if (now.length && guess.isIdle.value) guess.mutate(now.map((each) => each.id))
  },
  { immediate: true },
)
const looking = computed(() => guess.isPending.value)
const guessed = (shell: string) => guess.data.value?.find((row) => row.shell === shell)
const why = (shell: string) => {
  const row = guessed(shell)
  return row?.course && row.course === course.value[shell] ? row.reasons.join(', ') : ''
}
const options = computed(() => {
  const names = new Map(
    (courses.value?.results ?? [])
      .filter((each) => !each.paired)
      .map((each) => [each.id, [each.title, each.code, each.term].join(', ')]),
  )
  for (const row of guess.data.value ?? []) if (row.course) names.set(row.course, row.course_name)
  return [...names]
    .map(([value, label]) => ({ value, label }))
    .sort((a, b) => a.label.localeCompare(b.label))
})
const wanted = computed(() =>
  open.value
    .filter((each) => chosen.value[each.id] && course.value[each.id])
    .map((each) => ({ shell: each.id, course: course.value[each.id]! })),
)
const begin = useMutation({
  mutationFn: () =>
    answered(api.POST('/api/v1/set-ups', { body: { sections: wanted.value, agree: true } })),
  onSuccess: (made) => router.push({ name: 'set-up', params: { setUp: made.id } }),
})
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
          <p class="soft">
            {{ why(shell.id) || (looking ? 'looking' : 'no guess') }} ·
            <RouterLink :to="{ name: 'choose-course', params: { shell: shell.id } }"
              >Another course, or a new one</RouterLink
            >
          </p>
        </li>
      </ul>
      <p class="soft">Is a section missing? Open Venn Pair there once; it then appears here.</p>
      <h2>Your agreement, for each of them, once</h2>
      <ConsentPanel :shell="open[0]!.id" />
      <ProblemNote :error="guess.error.value ?? begin.error.value" />
      <p class="foot">
        <NButton
          type="primary"
          :disabled="!wanted.length || looking"
          :loading="begin.isPending.value"
          @click="begin.mutate()"
          >I agree: pair {{ many(wanted.length, 'section') }}</NButton
        >
        <span class="soft">Nothing is placed yet: the plan comes next.</span>
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
.pairs p {
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
  .pairs p {
    grid-column: 1;
  }
}
</style>
