<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { totalsQuery } from './queries'

/** Every learner's total, each with its arithmetic. */
const props = defineProps<{ pairing: string; average: string; points: string }>()
const {
  data: rows,
  error,
  isPending,
} = useQuery(computed(() => totalsQuery(props.pairing, props.average)))
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('deploy.total_rows.the_totals')" />
  <ProblemNote v-else-if="error" :error="error" />
  <ul v-else>
    <li v-for="(row, place) in rows" :key="place">
      <MoreBelow :title="row.learner">
        <template #title>
          <span class="who">{{ row.learner }}</span>
          <b>{{ row.score ?? $t('deploy.total_rows.nothing_counts_yet') }}</b><span
            v-if="row.score !== null"
            class="soft"
          >
            {{ $t('deploy.total_rows.of', { points }) }}</span
          >
        </template>
        <ol>
          <li v-for="(step, number) in row.arithmetic" :key="number">{{ step }}</li>
        </ol>
      </MoreBelow>
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0.5rem 0 0;
  max-height: 20rem;
  overflow-y: auto;
  width: 100%;
}
summary {
  cursor: pointer;
  padding: 0.15rem 0;
}
.who {
  display: inline-block;
  min-width: 12rem;
}
ol {
  margin: 0.2rem 0 0.5rem;
  font-size: 0.9rem;
  color: var(--soft);
}
</style>
