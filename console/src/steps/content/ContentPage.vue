<script setup lang="ts">
import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { inZone } from '@/logic/dates'
import EmptyNote from '@/parts/EmptyNote.vue'
import ListTable from '@/parts/ListTable.vue'
import type { Column } from '@/parts/listTable'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import CatalogueChanges from './CatalogueChanges.vue'
import ImportsPanel from './ImportsPanel.vue'
import { itemsQuery } from './queries'
import { t } from '@/words'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const route = useRoute()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const filters = computed(() => ({
  ...(typeof route.query.kind === 'string' ? { kind: route.query.kind } : {}),
  ...(route.query.placed === 'yes' || route.query.placed === 'no'
    ? { placed: route.query.placed === 'yes' }
    : {}),
}))
const items = useInfiniteQuery(computed(() => itemsQuery(id.value, filters.value)))
const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
type Item = (typeof rows.value)[number]
const placedWords = (item: Item) =>
  item.placed === 'placed'
    ? (item.folder || t('content.content.at_the_top')) +
      (item.column ? t('content.content.with_a_column') : '')
    : item.placed === 'failed'
      ? t('content.content.failed')
      : item.placed === 'planned'
        ? t('content.content.under_way')
        : item.placed === 'written'
          ? t('content.content.in_a_written_file_not')
          : '–'
const columns: Column<Item>[] = [
  {
    key: 'item',
    title: t('content.content.item'),
    by: (row) => row.shown_title,
    heading: true,
    minWidth: 240,
  },
  { key: 'unit', title: t('catalogue.unit'), text: (row) => row.unit, by: (row) => row.unit },
  {
    key: 'kind',
    title: t('content.content.kind'),
    text: (row) => t(`kind.${row.kind}`),
    width: 100,
  },
  {
    key: 'points',
    title: t('content.content.points'),
    text: (row) => row.points ?? '–',
    by: (row) => (row.points === null ? null : Number(row.points)),
    number: true,
    width: 90,
    skipNarrow: (row) => !row.points,
  },
  {
    key: 'due',
    title: t('content.content.due'),
    text: (row) =>
      inZone(row.due_at, zone.value) ||
      (row.kind === 'graded' ? t('content.content.no_date') : '–'),
    by: (row) => row.due_at,
    skipNarrow: (row) => !row.due_at && row.kind !== 'graded',
  },
  {
    key: 'placed',
    title: t('content.content.in_the_shell'),
    by: (row) => placedWords(row),
    skipNarrow: (row) => row.placed === 'no',
    minWidth: 200,
  },
]
const VIEWS = [
  [t('content.view.all'), {}],
  [t('kind.graded'), { kind: 'graded' }],
  [t('content.content.not_placed'), { placed: 'no' }],
  [t('catalogue.is_placed'), { placed: 'yes' }],
] as const
const isView = (query: object) =>
  JSON.stringify(query) ===
  JSON.stringify(
    Object.fromEntries(
      Object.entries(route.query).filter(([key]) => key === 'kind' || key === 'placed'),
    ),
  )
</script>

<template>
  <div>
    <div class="panels">
      <ImportsPanel
        v-if="about"
        :pairing="id"
        :publisher="about.course.publisher ?? ''"
        :zone="zone"
        :may-change="about.may_change"
      />
      <CatalogueChanges v-if="about" :pairing="id" :zone="zone" :may-change="about.may_change" />
    </div>
    <div class="row">
      <h2>{{ $t('content.content.items_of_the_homework_course') }}</h2>
      <nav class="row views push" :aria-label="$t('content.content.which_items')">
        <RouterLink
          v-for="[name, query] in VIEWS"
          :key="name"
          :to="{ query }"
          :class="{ on: isView(query) }"
          >{{ name }}</RouterLink
        >
      </nav>
    </div>
    <LoadingNote v-if="items.isPending.value" :what="$t('content.content.the_items')" />
    <ProblemNote
      v-else-if="items.error.value"
      :error="items.error.value"
      @again="items.refetch()"
    />
    <EmptyNote
      v-else-if="!rows.length"
      :title="
        Object.keys(filters).length
          ? $t('content.content.no_such_items')
          : $t('content.content.no_content_yet')
      "
    >
      <p>
        {{
          Object.keys(filters).length
            ? $t('content.content.choose_another_view_above')
            : $t('content.content.import_the_course_from_the')
        }}
      </p>
    </EmptyNote>
    <ListTable
      v-else
      class="items"
      :label="$t('content.content.items_of_the_homework_course')"
      :columns="columns"
      :rows="rows"
      :row-key="(row) => row.id"
    >
      <template #cell-item="{ row }"
        >{{ row.shown_title
        }}<span v-if="row.audience === 'instructor'" class="soft">
          {{ $t('content.content.for_teachers') }}</span
        ></template
      >
      <template #cell-placed="{ row }"
        ><span :class="{ 'right-ink': row.placed === 'placed', failed: row.placed === 'failed' }">{{
          placedWords(row)
        }}</span></template
      >
    </ListTable>
    <NButton v-if="items.hasNextPage.value" @click="items.fetchNextPage()">{{
      $t('content.content.show_more')
    }}</NButton>
  </div>
</template>

<style scoped>
section {
  margin-top: 1.2rem;
}
.panels {
  display: grid;
  gap: 1rem;
  margin-bottom: 1.4rem;
}
h2 {
  margin-bottom: 0;
}
.views a {
  padding: 0.2rem 0.7rem;
  border-radius: 999px;
  text-decoration: none;
  border: 1px solid var(--rule);
  color: var(--ink);
}
.views a.on {
  background: var(--both-wash);
  border-color: var(--both);
  font-weight: 600;
}
.failed {
  color: var(--alarm);
  font-weight: 600;
}
</style>
