<script setup lang="ts">
import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { computed, ref, toRef, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import type { Schemas } from '@/api/client'
import { answered, api } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { catalogueQuery, itemsQuery, outlineQuery } from '@/steps/content/queries'
import { pairingQuery, shellsQuery } from '@/steps/pair/queries'
import CatalogueList from './CatalogueList.vue'
import DestinationTree from './DestinationTree.vue'
import FolderTable from './FolderTable.vue'
import HowPanel from './HowPanel.vue'
import ItemPeek from './ItemPeek.vue'
import ItemTable from './ItemTable.vue'
import PlanBar from './PlanBar.vue'
import RolloutNote from './RolloutNote.vue'
import SectionsPanel from './SectionsPanel.vue'
import { useFirstReading } from './reading'
import { useSheet } from './sheet'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const route = useRoute()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const items = useInfiniteQuery(computed(() => itemsQuery(id.value, {})))
watch(
  () => items.hasNextPage.value && !items.isFetchingNextPage.value,
  (more) => more && items.fetchNextPage(),
)
const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
const { data: readings } = useQuery(computed(() => catalogueQuery(id.value)))
const changed = computed(
  () => new Set(readings.value?.[0]?.changes.map((each) => each.title) ?? []),
)
const {
  data: outline,
  error: outlineError,
  isPending: outlinePending,
} = useQuery(computed(() => outlineQuery(id.value)))
const { data: shells } = useQuery(shellsQuery())
const chosen = ref<string[]>(
  String(route.query.chosen ?? '')
    .split(',')
    .filter(Boolean),
)
const looked = ref<Schemas['Item']>()
const begun = ref<Schemas['WholeRollout'][]>([])
const { place, how, shift, sections, folders, wishes, plans, error, busy, again, deploy, write } =
  useSheet(id, chosen, (rollouts) => {
    begun.value = rollouts
    window.scrollTo({ top: 0 })
  })
const firstReadings = useFirstReading(plans, again)
watch(
  shells,
  (now) => {
    const others = (now?.results ?? []).filter(
      (each) => each.pairing && each.pairing !== id.value && ['ready', 'live'].includes(each.state),
    )
    sections.value = others
      .sort((a, b) => a.label.localeCompare(b.label))
      .map((each) => ({
        pairing: each.pairing!,
        label: each.label,
        on: false,
        shift: 0,
        folder: '',
      }))
  },
  { immediate: true },
)
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const each = ref(false)
const units = computed(() => [
  ...new Set(
    rows.value
      .filter((item) => chosen.value.includes(item.id) && item.unit)
      .map((item) => item.unit),
  ),
])
const into = computed(() => [
  { pairing: id.value, label: about.value?.shell.label ?? '' },
  ...sections.value.filter((each) => each.on),
])
const categories = computed(() =>
  [...new Set(rows.value.map((item) => item.category))].filter(Boolean),
)
async function ask() {
  const asked = await answered(
    api.POST('/api/v1/pairings/{pairing_pk}/asks', { params: { path: { pairing_pk: id.value } } }),
  )
  window.location.assign((asked as unknown as Schemas['Ask']).url)
}
</script>

<template>
  <LoadingNote v-if="items.isPending.value" what="the items" />
  <ProblemNote v-else-if="items.error.value" :error="items.error.value" />
  <EmptyNote v-else-if="!rows.length" title="Nothing to deploy yet">
    <p>
      <RouterLink :to="{ name: 'content', params: { pairing: id } }"
        >Import the course's content</RouterLink
      >
      first.
    </p>
  </EmptyNote>
  <div v-else>
    <RolloutNote v-for="rollout in begun" :key="rollout.id" :rollout="rollout" />
    <div class="trees">
      <section class="left-tree" aria-labelledby="from">
        <div class="row">
          <h2 id="from"><span class="left-ink">Homework course</span>: choose items</h2>
          <button v-if="about?.may_change" type="button" class="plainly push" @click="ask">
            Pick at the publisher
          </button>
        </div>
        <CatalogueList
          v-model="chosen"
          :items="rows"
          :changed="changed"
          :zone="zone"
          @look="looked = $event"
        />
        <ItemPeek v-if="looked" :item="looked" :zone="zone" />
      </section>
      <section class="right-tree" aria-labelledby="into">
        <h2 id="into"><span class="right-ink">Shell</span>: choose where</h2>
        <LoadingNote v-if="outlinePending" what="the shell's outline" />
        <ProblemNote v-else-if="outlineError" :error="outlineError" />
        <DestinationTree v-else v-model="place" :outline="outline ?? []" />
      </section>
    </div>
    <section class="sheet" aria-labelledby="how">
      <h2 id="how">How they are to stand</h2>
      <HowPanel v-model="how" :categories="categories" />
      <details
        v-if="chosen.length"
        class="each"
        @toggle="each = ($event.target as HTMLDetailsElement).open"
      >
        <summary>
          Item by item
          <span class="soft">another title, column, category or visibility for one of them</span>
        </summary>
        <ItemTable
          v-if="each"
          v-model="wishes"
          :items="rows"
          :chosen="chosen"
          :rows="plans?.[0]?.rows"
          :notices="plans?.[0]?.notices"
          :categories="categories"
          :zone="zone"
          :on-page="place.into === 'page'"
        />
      </details>
    </section>
    <details class="sheet" :open="sections.some((each) => each.on) || shift !== 0">
      <summary>
        <h2>
          Sections and dates
          <span class="soft">{{
            sections.length
              ? `also into ${sections.length} other shells of yours`
              : 'shift the dates of this one'
          }}</span>
        </h2>
      </summary>
      <SectionsPanel
        v-model="sections"
        v-model:shift="shift"
        :own="about?.shell.label ?? ''"
        :plans="plans"
        :readings="firstReadings"
        :chosen="chosen.length"
      />
      <FolderTable
        v-if="place.into === 'unit' && units.length"
        v-model="folders"
        :shells="into"
        :units="units"
        :plans="plans"
      />
    </details>
    <PlanBar
      :chosen="chosen.length"
      :plans="plans"
      :error="error"
      :busy="busy"
      :may-change="about?.may_change ?? false"
      @deploy="deploy"
      @write="write"
    />
  </div>
</template>

<style scoped>
.trees {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.4rem;
}
.left-tree,
.right-tree {
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-radius: 12px;
  padding: 0.9rem 1rem;
}
.left-tree {
  border-top: 4px solid var(--left);
}
.right-tree {
  border-top: 4px solid var(--right);
  align-self: start;
  max-height: 46rem;
  overflow-y: auto;
}
.sheet {
  margin-top: 1rem;
}
.each {
  margin-top: 0.7rem;
}
.each summary {
  font-weight: 600;
}
summary {
  cursor: pointer;
}
summary h2 {
  display: inline;
}
summary .soft {
  font-weight: 400;
  font-size: 0.92rem;
}
.plainly {
  font: inherit;
  color: var(--both);
  background: none;
  border: 0;
  text-decoration: underline;
  cursor: pointer;
  padding: 0;
}
@media (max-width: 800px) {
  .right-tree {
    max-height: none;
  }
  .trees {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
