<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, reactive } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { gradedQuery } from './queries'

const props = defineProps<{ pairing: string }>()
const emit = defineEmits<{ made: [average: Schemas['Average']] }>()
const { data: items } = useQuery(computed(() => gradedQuery(props.pairing)))
const counting = computed(() => (items.value ?? []).filter((item) => Number(item.points) > 0))
const categories = computed(() =>
  [...new Set(counting.value.map((item) => item.category))].filter(Boolean),
)
const form = reactive({
  title: 'Homework average',
  points: '100',
  of: [] as string[],
  weighting: 'equal' as const as 'equal' | 'points' | 'categories',
  missing: 'until_due' as const as 'until_due' | 'ignored' | 'zero',
  places: 2,
  keeps_up: false,
  weights: {} as Record<string, string>,
})
const weighed = computed(() => (form.of.length ? form.of : categories.value))
const make = useMutation({
  mutationFn: () => {
    const { title, points, weighting, missing, places, keeps_up } = form
    const which =
      form.of.length || weighting === 'categories'
        ? { categories: weighed.value }
        : { items: counting.value.map((item) => item.id) }
    const weights =
      weighting === 'categories'
        ? Object.fromEntries(weighed.value.map((name) => [name, form.weights[name]?.trim() || '1']))
        : {}
    return answered(
      api.POST('/api/v1/pairings/{pairing_pk}/averages', {
        params: { path: { pairing_pk: props.pairing } },
        body: { title, points, weighting, missing, places, keeps_up, weights, ...which } as never,
      }),
    ) as unknown as Promise<Schemas['Average']>
  },
  onSuccess: (made) => emit('made', made),
})
</script>

<template>
  <form @submit.prevent="make.mutate()">
    <div class="grid">
      <label
        >Title <input v-model="form.title" aria-label="Title of the column" maxlength="255"
      /></label>
      <label
        >Points <input v-model="form.points" aria-label="Points of the column" inputmode="decimal"
      /></label>
      <label
        >Items weigh
        <select v-model="form.weighting" aria-label="How items weigh">
          <option value="equal">alike, each as a share</option>
          <option value="points">by their points</option>
          <option value="categories">by the weights of categories</option>
        </select></label
      >
      <label
        >Missing work
        <select v-model="form.missing" aria-label="What missing work counts">
          <option value="until_due">nothing until it is due, zero after</option>
          <option value="ignored">never counts</option>
          <option value="zero">counts zero at once</option>
        </select></label
      >
      <label
        >Decimals
        <input v-model.number="form.places" aria-label="Decimals" type="number" min="0" max="4"
      /></label>
      <label class="check"
        ><input v-model="form.keeps_up" type="checkbox" /> keep it up while the relay is on</label
      >
    </div>
    <fieldset v-if="categories.length">
      <legend>
        {{
          form.of.length
            ? 'Only these categories count'
            : 'All graded items with points count, or only those of'
        }}
      </legend>
      <span v-for="name in categories" :key="name" class="category">
        <label><input v-model="form.of" type="checkbox" :value="name" /> {{ name }}</label>
        <label v-if="form.weighting === 'categories' && weighed.includes(name)"
          >weighs
          <input
            v-model="form.weights[name]"
            class="weight"
            inputmode="decimal"
            placeholder="1"
            :aria-label="`Weight of ${name}`"
        /></label>
      </span>
    </fieldset>
    <ProblemNote :error="make.error.value" />
    <NButton
      size="small"
      attr-type="submit"
      :loading="make.isPending.value"
      :disabled="!counting.length"
      >Make the column</NButton
    >
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.7rem;
  justify-items: start;
  margin-top: 0.6rem;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12rem, 1fr));
  gap: 0.5rem 0.9rem;
  align-items: end;
  width: 100%;
}
.grid label {
  display: grid;
  gap: 0.1rem;
  font-size: 0.85rem;
  color: var(--soft);
}
.grid .check {
  display: flex;
  gap: 0.4rem;
  align-items: baseline;
  color: var(--ink);
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1.1rem;
}
legend {
  font-size: 0.85rem;
  color: var(--soft);
  padding: 0;
  margin-bottom: 0.2rem;
}
.category {
  display: inline-flex;
  gap: 0.6rem;
  align-items: baseline;
}
.weight {
  width: 4rem;
}
select,
input:not([type='checkbox']) {
  font: inherit;
  font-size: 0.95rem;
  color: var(--ink);
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.2rem 0.4rem;
  min-width: 0;
}
input[type='checkbox'] {
  accent-color: var(--both);
}
</style>
