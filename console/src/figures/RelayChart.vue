<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { spanOf } from '@/logic/relay'
import { t } from '@/words'
import ChartFigure from './ChartFigure.vue'
import { ink, side } from './chartTheme'

/**
 * Received from the publisher grows upward, accepted by the gradebook downward: where both mirror
 * each other, all that came has gone.
 */
const props = defineProps<{ chart: Schemas['Chart']; zone: string }>()
const rows = computed(() =>
  props.chart.buckets.map((each) => ({ ...each, when: inZone(each.at, props.zone) })),
)
const sum = (name: 'received' | 'accepted') =>
  props.chart.buckets.reduce((total, each) => total + each[name], 0)
const slowest = computed(() => Math.max(0, ...props.chart.buckets.map((each) => each.most_ms ?? 0)))
const words = computed(() =>
  t(slowest.value ? 'chart.relay_slowest' : 'chart.relay', {
    received: sum('received'),
    accepted: sum('accepted'),
    span: spanOf(slowest.value),
  }),
)
const option = computed(() => ({
  grid: { left: 44, right: 12, top: 30, bottom: rows.value.length > 40 ? 56 : 26 },
  legend: { top: 0, textStyle: { color: ink('ink') } },
  tooltip: { trigger: 'axis' as const, valueFormatter: (value: number) => String(Math.abs(value)) },
  dataZoom: rows.value.length > 40 ? [{ type: 'slider' as const, height: 18, bottom: 6 }] : [],
  xAxis: { type: 'category' as const, data: rows.value.map((row) => row.when) },
  yAxis: { type: 'value' as const, axisLabel: { formatter: (value: number) => Math.abs(value) } },
  series: [
    {
      type: 'bar' as const,
      barMaxWidth: 36,
      stack: 'scores',
      name: t('chart.received'),
      data: rows.value.map((row) => row.received),
      itemStyle: side('left'),
    },
    {
      type: 'bar' as const,
      barMaxWidth: 36,
      stack: 'scores',
      name: t('chart.delivered'),
      data: rows.value.map((row) => -row.accepted),
      itemStyle: side('right'),
    },
  ],
}))
const table = computed(() => ({
  head: [t('chart.time'), t('chart.received'), t('chart.delivered'), t('chart.half_within')],
  rows: rows.value.map((row) => [
    row.when,
    String(row.received),
    String(row.accepted),
    row.lag_ms === null ? '–' : spanOf(row.lag_ms),
  ]),
}))
</script>

<template>
  <p class="soft">{{ words }}</p>
  <ChartFigure :option="option" :table="table" :label="words" :height="200" />
</template>
