<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import MoreBelow from '@/parts/MoreBelow.vue'
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { totalsQuery } from './queries'

/** Every learner's total, each with its arithmetic. */
const props = defineProps<{ pairing: string; average: string; points: string }>()
const { data: rows, ...reading } = useQuery(
  computed(() => totalsQuery(props.pairing, props.average)),
)
</script>

<template>
  <AfterReading :reading="reading" :what="$t('deploy.total_rows.the_totals')">
    <ul>
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
  </AfterReading>
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
