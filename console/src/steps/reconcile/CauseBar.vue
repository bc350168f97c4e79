<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { type RouteLocationRaw, RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { loudestFirst } from '@/logic/kinds'
import KindTag from '@/parts/KindTag.vue'

const props = defineProps<{
  pairing: string
  comparison: Schemas['Comparison']
  filters: Record<string, string>
  filtered: boolean
  narrow: (more: Record<string, string>) => RouteLocationRaw
}>()
const causes = computed(() => loudestFirst(props.comparison.summary?.open ?? {}))
const report = (as: string) =>
  `/api/v1/pairings/${props.pairing}/comparisons/${props.comparison.id}/report?as=${as}`
const print = () => window.print()
</script>

<template>
  <nav class="row causes" :aria-label="$t('reconcile.reconcile.findings_by_cause')">
    <RouterLink
      v-for="[kind, count] in causes"
      :key="kind"
      :to="narrow({ kind })"
      :class="{ on: filters.kind === kind }"
      ><KindTag :code="kind" :count="count"
    /></RouterLink>
    <RouterLink v-if="comparison.summary?.new" :to="narrow({ new: 'true' })">{{
      $t('reconcile.reconcile.new')
    }}</RouterLink>
    <RouterLink v-if="comparison.summary?.kept" :to="narrow({ kept: 'true' })">{{
      $t('reconcile.reconcile.kept_as_they_are')
    }}</RouterLink>
    <RouterLink v-if="filtered" :to="narrow({})">{{
      $t('reconcile.reconcile.show_all')
    }}</RouterLink>
    <span class="push row reports soft"
      >{{ $t('reconcile.reconcile.report') }}
      <a :href="report('html')">{{ $t('reconcile.reconcile.page') }}</a>
      <a :href="report('xlsx')">{{ $t('reconcile.reconcile.xlsx') }}</a>
      <a :href="report('csv')">{{ $t('reconcile.reconcile.csv') }}</a>
      <a :href="report('json')">{{ $t('reconcile.reconcile.json') }}</a>
      <NButton size="tiny" quaternary @click="print()">{{
        $t('reconcile.reconcile.print')
      }}</NButton></span
    >
  </nav>
</template>

<style scoped>
.causes {
  margin: 0.9rem 0;
  gap: 0.45rem;
}
.causes a {
  text-decoration: none;
  border-radius: 999px;
}
.causes a.on {
  outline: 3px solid var(--both);
}
.reports {
  gap: 0.5rem;
  font-size: 0.9rem;
}
.reports a {
  text-decoration: underline;
}
.reports button {
  font: inherit;
  background: none;
  border: 0;
  padding: 0;
  color: var(--both);
  text-decoration: underline;
  cursor: pointer;
}
@media print {
  .reports {
    display: none;
  }
}
</style>
