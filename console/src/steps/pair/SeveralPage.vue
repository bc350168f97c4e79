<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ConsentPanel from './ConsentPanel.vue'
import { coursesQuery, shellsQuery } from './queries'

const client = useQueryClient()
const { data: shells } = useQuery(shellsQuery())
const open = computed(() =>
  (shells.value?.results ?? []).filter((each) => !each.pairing && !each.copied),
)
const { data: courses } = useQuery(computed(() => coursesQuery('', '', false)))
const free = computed(() => (courses.value?.results ?? []).filter((each) => !each.paired))
const chosen = ref<Record<string, string>>({})
const guess = useMutation({
  mutationFn: (ids: string[]) =>
    answered(api.POST('/api/v1/pairings/several', { body: { shells: ids } })),
  onSuccess: (rows) =>
    (chosen.value = Object.fromEntries(rows.map((row) => [row.shell, row.course ?? '']))),
})
watch(
  open,
  (now) => {
    if (now.length && guess.isIdle.value) guess.mutate(now.map((each) => each.id))
  },
  { immediate: true },
)
const done = ref<Schemas['SeveralRow'][]>([])
const pair = useMutation({
  mutationFn: () =>
    answered(api.POST('/api/v1/pairings/several', { body: { pairs: pairs.value, agree: true } })),
  onSuccess: (rows) => {
    done.value = rows
    client.invalidateQueries({ queryKey: ['shells'] })
    client.invalidateQueries({ queryKey: ['courses'] })
  },
})
const pairs = computed(() =>
  Object.entries(chosen.value)
    .filter(([, course]) => course)
    .map(([shell, course]) => ({ shell, course })),
)
const twice = computed(
  () => new Set(pairs.value.map((each) => each.course)).size < pairs.value.length,
)
const why = (shell: string) =>
  guess.data.value
    ?.find((row) => row.shell === shell && row.course === chosen.value[shell])
    ?.reasons.join(', ')
const options = computed(() => {
  const known = new Map(
    free.value.map((each) => [each.id, [each.title, each.code, each.term].join(', ')]),
  )
  for (const row of guess.data.value ?? []) if (row.course) known.set(row.course, row.course_name)
  return [...known].sort((a, b) => a[1].localeCompare(b[1]))
})
</script>

<template>
  <div class="page">
    <h1>Pair several shells in one go</h1>
    <p class="soft">
      Guessed from section numbers, titles and terms; change what is not right. Nothing is paired
      before you press the button.
    </p>
    <template v-if="done.length">
      <ul class="done" role="status">
        <li v-for="row in done" :key="row.shell">
          <strong>{{ row.label }}</strong>:
          <template v-if="row.pairing"
            >paired with {{ row.course_name }}.
            <RouterLink :to="{ name: 'pair', params: { pairing: row.pairing } }"
              >Open</RouterLink
            ></template
          ><span v-else class="bad">{{ row.refused }}</span>
        </li>
      </ul>
      <p><RouterLink to="/">To your shells</RouterLink></p>
    </template>
    <template v-else>
      <LoadingNote v-if="!shells || guess.isPending.value" what="shells and courses" />
      <EmptyNote v-else-if="!open.length" title="Every shell is paired"
        ><p><RouterLink to="/">To your shells</RouterLink></p></EmptyNote
      >
      <template v-else>
        <table class="plain stack">
          <thead>
            <tr>
              <th scope="col">Homework course</th>
              <th scope="col">Why</th>
              <th scope="col">Shell</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="shell in open" :key="shell.id">
              <td class="wide">
                <select
                  v-model="chosen[shell.id]"
                  :aria-label="`Homework course of ${shell.label}`"
                >
                  <option value="">none: leave it unpaired</option>
                  <option v-for="[id, name] in options" :key="id" :value="id">{{ name }}</option>
                </select>
              </td>
              <td data-label="Why" class="soft">{{ why(shell.id) || '–' }}</td>
              <td data-label="Shell">
                <strong class="right-ink">{{ shell.label }}</strong> {{ shell.title }}
              </td>
            </tr>
          </tbody>
        </table>
        <h2>Your agreement, for each of them, once</h2>
        <ConsentPanel :shell="open[0]!.id" />
        <ProblemNote :error="guess.error.value ?? pair.error.value" />
        <p v-if="twice" class="bad" role="alert">
          Two shells have the same homework course; one of them will be refused unless its publisher
          allows sharing.
        </p>
        <p class="foot">
          <NButton
            type="primary"
            :disabled="!pairs.length"
            :loading="pair.isPending.value"
            @click="pair.mutate()"
            >I agree: pair {{ pairs.length }} {{ pairs.length === 1 ? 'shell' : 'shells' }}</NButton
          >
        </p>
      </template>
    </template>
  </div>
</template>

<style scoped>
select {
  font: inherit;
  max-width: 100%;
  width: 100%;
  padding: 0.25rem;
  border-radius: 6px;
  background: var(--sheet);
  color: var(--ink);
  border: 1px solid var(--left);
}
h2 {
  margin-top: 1.3rem;
}
.bad {
  color: var(--alarm);
}
.foot {
  margin-top: 1rem;
}
</style>
