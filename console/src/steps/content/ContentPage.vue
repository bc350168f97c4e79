<script setup lang="ts">
import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { inZone } from '@/logic/dates'
import { groupBy } from '@/logic/groups'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import CatalogueChanges from './CatalogueChanges.vue'
import ImportsPanel from './ImportsPanel.vue'
import { itemsQuery } from './queries'

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
const units = computed(() => groupBy(rows.value, (item) => item.unit || 'Without a unit'))
const VIEWS = [
  ['everything', {}],
  ['graded', { kind: 'graded' }],
  ['not placed', { placed: 'no' }],
  ['placed', { placed: 'yes' }],
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
      <h2>Items of the homework course</h2>
      <nav class="row views push" aria-label="Which items">
        <RouterLink
          v-for="[name, query] in VIEWS"
          :key="name"
          :to="{ query }"
          :class="{ on: isView(query) }"
          >{{ name }}</RouterLink
        >
      </nav>
    </div>
    <LoadingNote v-if="items.isPending.value" what="the items" />
    <ProblemNote
      v-else-if="items.error.value"
      :error="items.error.value"
      @again="items.refetch()"
    />
    <EmptyNote
      v-else-if="!rows.length"
      :title="Object.keys(filters).length ? 'No such items' : 'No content yet'"
    >
      <p>
        {{
          Object.keys(filters).length
            ? 'Choose another view above.'
            : 'Import the course from the publisher, upload its cartridge, or look for graded items at the publisher. Nothing appears in the shell until you say so.'
        }}
      </p>
    </EmptyNote>
    <section v-for="unit in units" :key="unit.name" :aria-label="unit.name">
      <h2>{{ unit.name }}</h2>
      <table class="plain stack">
        <thead>
          <tr>
            <th scope="col">Item</th>
            <th scope="col">Kind</th>
            <th scope="col" class="number">Points</th>
            <th scope="col">Due</th>
            <th scope="col">In the shell</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in unit.rows" :key="item.id">
            <td class="wide">
              {{ item.shown_title
              }}<span v-if="item.audience === 'instructor'" class="soft"> · for teachers</span>
            </td>
            <td data-label="Kind">{{ item.kind }}</td>
            <td data-label="Points" class="number" :class="{ none: !item.points }">
              {{ item.points ?? '–' }}
            </td>
            <td data-label="Due" :class="{ none: !item.due_at && item.kind !== 'graded' }">
              {{ inZone(item.due_at, zone) || (item.kind === 'graded' ? 'no date' : '–') }}
            </td>
            <td data-label="In the shell" :class="{ none: item.placed === 'no' }">
              <span v-if="item.placed === 'placed'" class="right-ink"
                >{{ item.folder || 'at the top' }}{{ item.column ? ', with a column' : '' }}</span
              ><span v-else-if="item.placed === 'failed'" class="failed">failed</span
              ><span v-else class="soft">{{
                item.placed === 'planned'
                  ? 'under way'
                  : item.placed === 'written'
                    ? 'in a written file, not opened yet'
                    : '–'
              }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <NButton v-if="items.hasNextPage.value" @click="items.fetchNextPage()">Show more</NButton>
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
table {
  table-layout: fixed;
}
th:nth-child(2) {
  width: 8%;
}
th:nth-child(3) {
  width: 8%;
}
th:nth-child(4) {
  width: 14%;
}
th:nth-child(5) {
  width: 32%;
}
.failed {
  color: var(--alarm);
  font-weight: 600;
}
</style>
