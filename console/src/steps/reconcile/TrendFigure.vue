<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ChartFigure from '@/figures/ChartFigure.vue'
import { ink, side } from '@/figures/chartTheme'
import { inZone } from '@/logic/dates'
import { t } from '@/words'

/** Each comparison a bar: what agreed below, what differed above, the newest at the right. */
const props = defineProps<{ history: readonly Schemas['ComparisonLine'][]; zone: string }>()
const rows = computed(() =>
  [...props.history].reverse().map((each) => ({
    at: inZone(each.at, props.zone),
    agree: each.summary?.kinds.agree ?? 0,
    apart: (each.summary?.cells ?? 0) - (each.summary?.kinds.agree ?? 0),
    new: each.summary?.new ?? 0,
  })),
)
const option = computed(() => ({
  grid: { left: 44, right: 12, top: 30, bottom: rows.value.length > 30 ? 56 : 26 },
  legend: { top: 0, textStyle: { color: ink('ink') } },
  tooltip: { trigger: 'axis' as const },
  dataZoom: rows.value.length > 30 ? [{ type: 'slider' as const, height: 18, bottom: 6 }] : [],
  xAxis: { type: 'category' as const, data: rows.value.map((row) => row.at) },
  yAxis: { type: 'value' as const, minInterval: 1 },
  series: [
    {
      type: 'bar' as const,
      barMaxWidth: 36,
      stack: 'cells',
      name: t('chart.agree'),
      data: rows.value.map((row) => row.agree),
      itemStyle: side('both'),
    },
    {
      type: 'bar' as const,
      barMaxWidth: 36,
      stack: 'cells',
      name: t('chart.apart'),
      data: rows.value.map((row) => row.apart),
      itemStyle: side('alarm'),
    },
  ],
}))
const table = computed(() => ({
  head: [t('chart.time'), t('chart.agree'), t('chart.apart'), t('chart.new')],
  rows: rows.value.map((row) => [row.at, String(row.agree), String(row.apart), String(row.new)]),
}))
</script>

<template>
  <ChartFigure
    :option="option"
    :table="table"
    :label="$t('chart.trend', { n: rows.length })"
    :height="240"
  />
</template>
