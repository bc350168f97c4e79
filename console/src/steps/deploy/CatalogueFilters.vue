<script setup lang="ts">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import type { Filters } from '@/logic/catalogue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { t } from '@/words'

const props = defineProps<{ items: readonly Schemas['Item'][]; changed: ReadonlySet<string> }>()
const filters = defineModel<Filters>({ required: true })
const KINDS = ['graded', 'practice', 'reading', 'media', 'link'] as const
const every = (label: string, found: readonly string[]) => [
  { value: '', label },
  ...[...new Set(found)].filter(Boolean).map((value) => ({ value, label: value })),
]
const units = computed(() =>
  every(
    t('catalogue.all_units'),
    props.items.map((item) => item.unit),
  ),
)
const categories = computed(() =>
  every(
    t('catalogue.all_categories'),
    props.items.map((item) => item.category),
  ),
)
const subjects = computed(() =>
  every(
    t('catalogue.all_subjects'),
    props.items.flatMap((item) => item.subjects),
  ),
)
const set = <K extends keyof Filters>(name: K, value: Filters[K]) =>
  (filters.value = { ...filters.value, [name]: value })
</script>

<template>
  <div class="filters" role="search" :aria-label="$t('catalogue.narrow')">
    <NInput
      :value="filters.words"
      size="small"
      clearable
      :placeholder="$t('common.search')"
      :input-props="{ 'aria-label': $t('catalogue.search'), type: 'search' }"
      @update:value="set('words', $event)"
    />
    <ChooseOne
      :value="filters.kind"
      :label="$t('catalogue.kind')"
      :options="[
        { value: '', label: $t('catalogue.all_kinds') },
        ...KINDS.map((value) => ({ value, label: $t(`kind.${value}`) })),
      ]"
      @chosen="set('kind', $event)"
    />
    <ChooseOne
      :value="filters.unit"
      :label="$t('catalogue.unit')"
      :options="units"
      @chosen="set('unit', $event)"
    />
    <ChooseOne
      v-if="categories.length > 1"
      :value="filters.category"
      :label="$t('catalogue.category')"
      :options="categories"
      @chosen="set('category', $event)"
    />
    <ChooseOne
      v-if="subjects.length > 1"
      :value="filters.subject"
      :label="$t('catalogue.subject')"
      :options="subjects"
      @chosen="set('subject', $event)"
    />
    <ChooseOne
      :value="filters.date"
      :label="$t('catalogue.due_date')"
      :options="[
        { value: '', label: $t('catalogue.any_date') },
        { value: 'with', label: $t('catalogue.with_date') },
        { value: 'without', label: $t('catalogue.without_date') },
      ]"
      @chosen="set('date', $event)"
    />
    <ChooseOne
      :value="filters.placed"
      :label="$t('catalogue.placed')"
      :options="[
        { value: '', label: $t('catalogue.placed_or_not') },
        { value: 'no', label: $t('catalogue.not_placed') },
        { value: 'yes', label: $t('catalogue.is_placed') },
      ]"
      @chosen="set('placed', $event)"
    />
    <NCheckbox
      v-if="changed.size"
      :checked="filters.changed"
      @update:checked="(on: boolean) => set('changed', on)"
      >{{ $t('catalogue.changed') }}</NCheckbox
    >
  </div>
</template>

<style scoped>
.filters {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(8.5rem, 1fr));
  gap: 0.35rem;
  align-items: center;
  margin-bottom: 0.5rem;
}
</style>
