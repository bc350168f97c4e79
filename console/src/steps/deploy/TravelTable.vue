<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import MoreBelow from '@/parts/MoreBelow.vue'
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { travelsQuery } from './queries'
import { t } from '@/words'

const props = defineProps<{ pairing: string }>()
const { data: travels } = useQuery(computed(() => travelsQuery(props.pairing)))
const WORDS: Record<string, string> = {
  yes: t('deploy.travel_table.travels'),
  once: t('deploy.travel_table.once_when_placed'),
  no: t('deploy.travel_table.does_not'),
}
</script>

<template>
  <MoreBelow v-if="travels" sheet :title="$t('deploy.travel_table.between_these_two_sides_and')">
    <template #title>
      <h2>{{ $t('deploy.travel_table.what_travels') }}</h2>
      <span class="soft">{{ $t('deploy.travel_table.between_these_two_sides_and') }}</span>
    </template>
    <p>{{ travels.why }}</p>
    <NTable :bordered="false" class="plain stack">
      <thead>
        <tr>
          <th scope="col">{{ $t('deploy.travel_table.what') }}</th>
          <th scope="col">{{ $t('deploy.travel_table.travels') }}</th>
          <th scope="col">{{ $t('deploy.travel_table.how') }}</th>
          <th scope="col">{{ $t('deploy.travel_table.by_hand') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in travels.rows" :key="row.what">
          <td class="wide">{{ row.what }}</td>
          <td :data-label="$t('deploy.travel_table.travels')">
            <span class="does" :class="row.travels">{{ WORDS[row.travels] }}</span>
          </td>
          <td :data-label="$t('deploy.travel_table.how')">{{ row.how }}</td>
          <td :data-label="$t('deploy.travel_table.by_hand')" :class="{ none: !row.by_hand }">
            {{ row.by_hand || $t('deploy.travel_table.nothing') }}
          </td>
        </tr>
      </tbody>
    </NTable>
  </MoreBelow>
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
