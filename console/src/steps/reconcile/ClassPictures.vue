<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, defineAsyncComponent } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import ScoreMatrix from '@/figures/ScoreMatrix.vue'
import { t } from '@/words'
import { historyQuery } from './queries'
import ReadyPanel from './ReadyPanel.vue'
import { type View, VIEWS } from './useFindings'

// Charts are a chunk of their own, loaded when one is looked at.
const ScoreScatter = defineAsyncComponent(() => import('@/figures/ScoreScatter.vue'))
const TrendFigure = defineAsyncComponent(() => import('./TrendFigure.vue'))

const props = defineProps<{
  pairing: string
  comparison: Schemas['Comparison']
  filters: Record<string, string>
  view: View
  zone: string
  mayChange: boolean
}>()
const emit = defineEmits<{ choose: [placement: string, person: string] }>()
const LABELS: Record<View, string> = {
  matrix: t('reconcile.reconcile.the_class'),
  scatter: t('reconcile.reconcile.share_against_share'),
  trend: t('reconcile.reconcile.over_time'),
  ready: t('reconcile.reconcile.ready_to_submit'),
}
const { data: history } = useQuery(computed(() => historyQuery(props.pairing)))
</script>

<template>
  <div class="row views" role="tablist" :aria-label="$t('reconcile.reconcile.pictures')">
    <RouterLink
      v-for="name in VIEWS"
      :key="name"
      role="tab"
      :aria-selected="view === name"
      :to="{ query: { ...filters, view: name } }"
      :class="{ on: view === name }"
      >{{ LABELS[name] }}</RouterLink
    >
  </div>
  <template v-if="comparison.matrix && comparison.matrix.items.length">
    <ScoreMatrix
      v-if="view === 'matrix'"
      :matrix="comparison.matrix"
      :chosen="filters"
      @choose="(placement, person) => emit('choose', placement, person)"
    />
    <ScoreScatter
      v-else-if="view === 'scatter'"
      :comparison="comparison"
      @choose="(placement, person) => emit('choose', placement, person)"
    />
  </template>
  <p v-else-if="view !== 'trend' && view !== 'ready'" class="soft">
    {{ $t('reconcile.reconcile.nothing_with_a_column_is') }}
  </p>
  <TrendFigure v-if="view === 'trend' && history" :history="history" :zone="zone" />
  <ReadyPanel v-if="view === 'ready'" :pairing="pairing" :may-change="mayChange" />
</template>

<style scoped>
.views {
  gap: 0.3rem;
  margin-bottom: 0.5rem;
}
.views a {
  text-decoration: none;
  color: var(--soft);
  padding: 0.1rem 0.6rem;
  border-radius: 999px;
  border: 1px solid transparent;
  font-size: 0.92rem;
}
.views a.on {
  color: var(--both);
  border-color: currentColor;
  font-weight: 600;
}
@media print {
  .views {
    display: none;
  }
}
</style>
