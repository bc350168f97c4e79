<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import { spanOf } from '@/logic/relay'

/** How each platform takes scores: open or paused, what waits, and the last day. */
const { data: rows } = useQuery({
  queryKey: ['platform-health'],
  queryFn: () => answered(api.GET('/api/v1/connections/health')),
  refetchInterval: 10_000,
})
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
</script>

<template>
  <section v-if="rows?.length" class="below" aria-labelledby="health">
    <h2 id="health">How platforms take scores</h2>
    <table class="plain stack">
      <thead>
        <tr>
          <th scope="col">Platform</th>
          <th scope="col">Now</th>
          <th scope="col" class="number">At once</th>
          <th scope="col" class="number">Waiting</th>
          <th scope="col" class="number">Accepted today</th>
          <th scope="col" class="number">Refused</th>
          <th scope="col" class="number">Failed, tried again</th>
          <th scope="col" class="number">95 % within</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.platform">
          <td class="wide">
            {{ row.name }}
            <span class="soft"
              >{{ row.live }} live{{ row.off ? `, ${row.off} with the relay off` : '' }}</span
            >
          </td>
          <td data-label="Now" :class="{ closed: !row.open }">
            {{ row.open ? 'open' : row.pause }}
          </td>
          <td data-label="At once" class="number">{{ row.at_once }}</td>
          <td data-label="Waiting" class="number">
            {{ row.waiting
            }}<span v-if="row.oldest" class="soft"> since {{ inZone(row.oldest, zone) }}</span>
          </td>
          <td data-label="Accepted today" class="number">{{ row.accepted }}</td>
          <td data-label="Refused" class="number" :class="{ closed: row.refused }">
            {{ row.refused }}
          </td>
          <td data-label="Failed" class="number">{{ row.failed }}</td>
          <td data-label="95 % within" class="number">{{ spanOf(row.lag.most_ms) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1.2rem;
}
.closed {
  color: var(--alarm);
  font-weight: 600;
}
</style>
