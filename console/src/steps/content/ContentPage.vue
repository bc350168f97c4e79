<script setup lang="ts">
import { useInfiniteQuery, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import { pairingQuery } from '@/steps/pair/queries'
import CatalogueChanges from './CatalogueChanges.vue'
import ImportsPanel from './ImportsPanel.vue'
import ItemList from './ItemList.vue'
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
    <AfterReading
      :reading="items"
      :what="$t('content.content.the_items')"
      :none="
        !rows.length &&
        (Object.keys(filters).length
          ? $t('content.content.no_such_items')
          : $t('content.content.no_content_yet'))
      "
      :none-means="
        Object.keys(filters).length
          ? $t('content.content.choose_another_view_above')
          : $t('content.content.import_the_course_from_the')
      "
    >
      <ItemList :items="rows" :zone="zone" />
    </AfterReading>
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
</style>
