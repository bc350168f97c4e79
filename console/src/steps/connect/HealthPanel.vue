<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { useQuery } from '@tanstack/vue-query'
import { answered, api } from '@/api/client'
import { inZone, ownZone, zoneName } from '@/logic/dates'
import { spanOf } from '@/logic/relay'

/** How each platform takes scores: open or paused, what waits, and the last day. */
const { data: rows } = useQuery({
  queryKey: ['platform-health'],
  queryFn: () => answered(api.GET('/api/v1/connections/health')),
  refetchInterval: 10_000,
})
const zone = ownZone()
</script>

<template>
  <section v-if="rows?.length" class="below" aria-labelledby="health">
    <h2 id="health">{{ $t('connect.health.how_platforms_take_scores') }}</h2>
    <p class="soft">{{ $t('common.your_time_zone', { zone: zoneName(zone) }) }}</p>
    <NTable :bordered="false" class="plain stack">
      <thead>
        <tr>
          <th scope="col">{{ $t('connect.health.platform') }}</th>
          <th scope="col">{{ $t('connect.health.now') }}</th>
          <th scope="col" class="number">{{ $t('connect.health.at_once') }}</th>
          <th scope="col" class="number">{{ $t('connect.health.waiting') }}</th>
          <th scope="col" class="number">{{ $t('connect.health.accepted_today') }}</th>
          <th scope="col" class="number">{{ $t('connect.health.refused') }}</th>
          <th scope="col" class="number">{{ $t('connect.health.failed_tried_again') }}</th>
          <th scope="col" class="number">{{ $t('connect.health.95_within') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in rows" :key="row.platform">
          <td class="wide">
            {{ row.name }}
            <span class="soft">{{
              $t('connect.health.live', {
                live: row.live,
                off: row.off ? $t('connect.health.with_the_relay_off', { off: row.off }) : '',
              })
            }}</span>
          </td>
          <td :data-label="$t('connect.health.now')" :class="{ closed: !row.open }">
            {{ row.open ? $t('connect.health.open') : row.pause }}
          </td>
          <td :data-label="$t('connect.health.at_once')" class="number">{{ row.at_once }}</td>
          <td :data-label="$t('connect.health.waiting')" class="number">
            {{ row.waiting
            }}<span v-if="row.oldest" class="soft">
              {{ $t('connect.health.since', { oldest: inZone(row.oldest, zone) }) }}</span
            >
          </td>
          <td :data-label="$t('connect.health.accepted_today')" class="number">
            {{ row.accepted }}
          </td>
          <td
            :data-label="$t('connect.health.refused')"
            class="number"
            :class="{ closed: row.refused }"
          >
            {{ row.refused }}
          </td>
          <td :data-label="$t('connect.health.failed')" class="number">{{ row.failed }}</td>
          <td :data-label="$t('connect.health.95_within')" class="number">
            {{ spanOf(row.lag.most_ms) }}
          </td>
        </tr>
      </tbody>
    </NTable>
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
