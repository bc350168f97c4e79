<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { travelsQuery } from './queries'

const props = defineProps<{ pairing: string }>()
const { data: travels } = useQuery(computed(() => travelsQuery(props.pairing)))
const WORDS: Record<string, string> = { yes: 'travels', once: 'once, when placed', no: 'does not' }
</script>

<template>
  <details v-if="travels" class="sheet">
    <summary>
      <h2>What travels</h2>
      <span class="soft">between these two sides, and what is left to do by hand</span>
    </summary>
    <p>{{ travels.why }}</p>
    <table class="plain stack">
      <thead>
        <tr>
          <th scope="col">What</th>
          <th scope="col">Travels</th>
          <th scope="col">How</th>
          <th scope="col">By hand</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in travels.rows" :key="row.what">
          <td class="wide">{{ row.what }}</td>
          <td data-label="Travels">
            <span class="does" :class="row.travels">{{ WORDS[row.travels] }}</span>
          </td>
          <td data-label="How">{{ row.how }}</td>
          <td data-label="By hand" :class="{ none: !row.by_hand }">
            {{ row.by_hand || 'nothing' }}
          </td>
        </tr>
      </tbody>
    </table>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}
h2 {
  display: inline;
}
.does {
  white-space: nowrap;
  font-weight: 600;
  color: var(--left);
}
.does.yes {
  color: var(--good);
}
td {
  font-size: 0.92rem;
}
</style>
