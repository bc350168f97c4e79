<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, defineAsyncComponent, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { spanOf } from '@/logic/relay'
import ChooseOne from '@/parts/ChooseOne.vue'
import { chartQuery } from './queries'

// Loaded when everything else is there.
const RelayChart = defineAsyncComponent(() => import('@/figures/RelayChart.vue'))

/** What came and went over time, and how long it took. */
const props = defineProps<{ pairing: string; relay: Schemas['Relay']; zone: string }>()
const hours = ref(24)
const { data: chart } = useQuery(computed(() => chartQuery(props.pairing, hours.value)))
</script>

<template>
  <section class="sheet flow" :aria-label="$t('relay.relay.scores_over_time')">
    <div class="row facts">
      <span
        ><b>{{ relay.received }}</b>
        {{
          $t('relay.relay.report_received', {
            s: relay.received === 1 ? '' : $t('relay.relay.s'),
          })
        }}</span
      >
      <span v-if="relay.lag.median_ms !== null"
        >{{ $t('relay.relay.today_half_were_in_the') }} <b>{{ spanOf(relay.lag.median_ms) }}</b>{{
          $t('relay.relay.nearly_all_within')
        }}
        <b>{{ spanOf(relay.lag.most_ms) }}</b></span
      >
      <span v-if="relay.oldest" class="old">{{
        $t('relay.relay.oldest_waiting_since', {
          learner: relay.oldest.learner,
          item: relay.oldest.item,
          since: inZone(relay.oldest.since, zone),
        })
      }}</span>
      <span class="push row"
        ><div class="field">
          <span>{{ $t('relay.relay.last') }}</span>
          <ChooseOne
            v-model:value="hours"
            :label="$t('relay.relay.last')"
            :options="[
              { value: 6, label: $t('relay.relay.6_hours') },
              { value: 24, label: $t('relay.relay.day') },
              { value: 168, label: $t('relay.relay.week') },
              { value: 1440, label: $t('relay.relay.60_days') },
            ]"
          /></div
      ></span>
    </div>
    <RelayChart v-if="chart?.buckets.length" :chart="chart" :zone="zone" />
    <p v-else class="soft">{{ $t('relay.relay.nothing_came_or_went_in') }}</p>
  </section>
</template>

<style scoped>
.field {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
.field :deep(.n-select) {
  width: 7.5rem;
}
.flow {
  margin-bottom: 0.8rem;
}
.facts {
  gap: 1.3rem;
  margin-bottom: 0.5rem;
}
.old {
  color: var(--left);
}
</style>
