<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, reactive, ref, toRef, watch } from 'vue'
import { answered, api } from '@/api/client'
import { many } from '@/logic/counting'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { relayQuery, rulesQuery } from './queries'

/** What goes, which attempt counts, in which numbers, and when: said in a sentence first, changed for all, a category or an item. */
const props = defineProps<{ pairing: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const { data: rules, error, isPending } = useQuery(computed(() => rulesQuery(id.value)))
const scope = ref('all')
const key = ref('')
const chosen = reactive<Record<string, string | number | boolean | null>>({})
const DEFAULTS = {
  relays: true,
  when: 'submission',
  at: '18:00',
  late: 'at_once',
  counts: 'publisher',
  points: 'given',
  places: null,
  comments: true,
  statuses: false,
  look_first: false,
}
const categories = computed(() => [
  ...new Set(rules.value?.items.map((each) => each.category).filter(Boolean)),
])
const own = computed<Record<string, unknown>>(() => {
  if (scope.value === 'category')
    return (rules.value?.categories[key.value] ?? {}) as Record<string, unknown>
  if (scope.value === 'item')
    return (rules.value?.items.find((each) => each.item === key.value)?.own ?? {}) as Record<
      string,
      unknown
    >
  return (rules.value?.changes ?? {}) as Record<string, unknown>
})
watch(
  [own],
  () => {
    for (const name of Object.keys(DEFAULTS))
      chosen[name] = (own.value[name] ??
        (rules.value?.changes as Record<string, unknown>)?.[name] ??
        DEFAULTS[name as keyof typeof DEFAULTS]) as string
  },
  { immediate: true },
)
watch(
  scope,
  (now) =>
    (key.value =
      now === 'category'
        ? (categories.value[0] ?? '')
        : now === 'item'
          ? (rules.value?.items[0]?.item ?? '')
          : ''),
)
const changes = () => {
  const wide =
    scope.value === 'all' ? DEFAULTS : { ...DEFAULTS, ...(rules.value?.changes as object) }
  return Object.fromEntries(
    Object.entries(chosen).filter(([name, value]) => value !== wide[name as keyof typeof DEFAULTS]),
  )
}
const body = (dry: boolean, said: Record<string, unknown> = changes()) => ({
  params: { path: { pairing_pk: id.value } },
  body: { scope: scope.value as 'all', key: key.value, changes: said, dry_run: dry },
})
const foresee = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/pairings/{pairing_pk}/relay-rules', body(true))),
})
const change = useMutation({
  mutationFn: (said: Record<string, never> | undefined) =>
    answered(api.POST('/api/v1/pairings/{pairing_pk}/relay-rules', body(false, said))),
  onSuccess: () => {
    foresee.reset()
    client.invalidateQueries({ queryKey: relayQuery(id.value).queryKey })
  },
})
watch([chosen, scope, key], () => foresee.reset(), { deep: true })
</script>

<template>
  <details class="sheet">
    <summary>
      <h2>What goes, and when</h2>
      <span class="soft">{{ rules?.words }}</span>
    </summary>
    <LoadingNote v-if="isPending" what="the rules" />
    <ProblemNote :error="error ?? change.error.value ?? foresee.error.value" />
    <fieldset v-if="rules" :disabled="!mayChange">
      <legend class="sr-only">The rule</legend>
      <div class="grid">
        <label
          >For
          <select v-model="scope">
            <option value="all">all items</option>
            <option value="category">a category</option>
            <option value="item">one item</option>
          </select></label
        >
        <label v-if="scope === 'category'"
          >Category
          <select v-model="key">
            <option v-for="each in categories" :key="each">{{ each }}</option>
          </select></label
        >
        <label v-if="scope === 'item'"
          >Item
          <select v-model="key">
            <option v-for="each in rules.items" :key="each.item" :value="each.item">
              {{ each.title }}
            </option>
          </select></label
        >
        <label
          ><span>Scores</span>
          <select v-model="chosen.relays">
            <option :value="true">go to the gradebook</option>
            <option :value="false">stay here</option>
          </select></label
        >
        <label
          ><span>When</span>
          <select v-model="chosen.when">
            <option value="submission">as learners hand in</option>
            <option value="due">all at once after the due date</option>
            <option value="daily">every day at a time</option>
            <option value="hand">when I release them</option>
          </select></label
        >
        <label v-if="chosen.when === 'daily'">At <input v-model="chosen.at" type="time" /></label>
        <label v-if="chosen.when === 'due' || chosen.when === 'hand'"
          >Later work
          <select v-model="chosen.late">
            <option value="at_once">goes at once</option>
            <option value="hand">waits for me</option>
          </select></label
        >
        <label
          ><span>Which attempt</span>
          <select v-model="chosen.counts">
            <option value="publisher">as the publisher counts</option>
            <option value="last" :disabled="!rules.attempts">the last</option>
            <option value="best" :disabled="!rules.attempts">the best</option>
            <option value="first" :disabled="!rules.attempts">the first</option>
            <option value="mean" :disabled="!rules.attempts">the mean of all</option>
          </select></label
        >
        <label
          ><span>Numbers</span>
          <select v-model="chosen.points">
            <option value="given">as the publisher states them</option>
            <option value="column">in the column's points</option>
          </select></label
        >
        <label v-if="chosen.points === 'column'"
          >Rounded to
          <select v-model="chosen.places">
            <option :value="null">not rounded</option>
            <option v-for="each in [0, 1, 2, 3, 4]" :key="each" :value="each">
              {{ each ? `${each} decimals` : 'whole points' }}
            </option>
          </select></label
        >
        <label class="tick"
          ><input v-model="chosen.comments" type="checkbox" /> with comments</label
        >
        <label class="tick"
          ><input v-model="chosen.statuses" type="checkbox" /> with progress before there is a
          score</label
        >
        <label class="tick"
          ><input v-model="chosen.look_first" type="checkbox" /> learners see the column when I show
          it</label
        >
      </div>
      <p v-if="foresee.data.value" class="foreseen">
        {{ foresee.data.value.words }}
        {{ many(foresee.data.value.cells, 'score is', 'scores are') }} looked at anew.
      </p>
      <div class="row">
        <NButton
          v-if="!foresee.data.value"
          size="small"
          :loading="foresee.isPending.value"
          @click="foresee.mutate()"
          >What would that mean?</NButton
        >
        <NButton
          v-else
          size="small"
          type="primary"
          :loading="change.isPending.value"
          @click="change.mutate(undefined)"
          >Change it</NButton
        >
        <NButton v-if="Object.keys(own).length" size="small" quaternary @click="change.mutate({})"
          >Take back what was chosen here</NButton
        >
      </div>
    </fieldset>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}
h2 {
  display: inline;
}
fieldset {
  border: 0;
  padding: 0.6rem 0 0;
  margin: 0;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: 0.5rem 1rem;
  margin-bottom: 0.7rem;
}
label {
  display: grid;
  gap: 0.1rem;
  align-content: start;
  font-size: 0.86rem;
  color: var(--soft);
}
label.tick {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  color: inherit;
  font-size: inherit;
}
select,
input[type='time'] {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.3rem 0.4rem;
  width: 100%;
  font-size: 0.95rem;
  color: var(--ink);
}
.foreseen {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.4rem 0.7rem;
}
</style>
