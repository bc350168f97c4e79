<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { dayOf } from '@/logic/dates'
import { t } from '@/words'
import ChartFigure from './ChartFigure.vue'
import { ink, side } from './chartTheme'

/** Scores received and delivered on each day: two bars a day, publisher left, gradebook right. */
const props = defineProps<{ days: readonly Schemas['Day'][] }>()
const rows = computed(() =>
  props.days.map((day) => ({ at: dayOf(day.date), left: day.received, right: day.delivered })),
)
const option = computed(() => ({
  grid: { left: 44, right: 12, top: 30, bottom: 26 },
  legend: { top: 0, textStyle: { color: ink('ink') } },
  tooltip: { trigger: 'axis' as const },
  xAxis: { type: 'category' as const, data: rows.value.map((row) => row.at) },
  yAxis: { type: 'value' as const, minInterval: 1 },
  series: [
    {
      type: 'bar' as const,
      barMaxWidth: 36,
      name: t('chart.received'),
      data: rows.value.map((row) => row.left),
      itemStyle: side('left'),
    },
    {
      type: 'bar' as const,
      barMaxWidth: 36,
      name: t('chart.delivered'),
      data: rows.value.map((row) => row.right),
      itemStyle: side('right'),
    },
  ],
}))
const table = computed(() => ({
  head: [t('chart.day'), t('chart.received'), t('chart.delivered')],
  rows: rows.value.map((row) => [row.at, String(row.left), String(row.right)]),
}))
</script>

<template>
  <ChartFigure :option="option" :table="table" :label="$t('today.days')" :height="190" />
</template>
