<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { kindOf } from '@/logic/kinds'
import { type Dot, dotsOf, MOST, NONE } from '@/logic/scatter'
import { t } from '@/words'
import ChartFigure from './ChartFigure.vue'
import { ink } from './chartTheme'

/**
 * Publisher's share to the right, gradebook's upward: on the diagonal both agree, and each kind of
 * trouble is a shape of its own. A dot leads to its cell.
 */
const props = defineProps<{ comparison: Schemas['Comparison'] }>()
const emit = defineEmits<{ choose: [placement: string, person: string] }>()
const dots = computed(() =>
  props.comparison.matrix ? dotsOf(props.comparison.matrix.rows, props.comparison.shares) : [],
)
const kinds = computed(() => [...new Set(dots.value.map((dot) => dot.kind))])
const of = (kind: string) => dots.value.filter((dot) => dot.kind === kind)
const off = computed(() =>
  dots.value.filter((dot) => dot.kind !== 'agree').reduce((sum, dot) => sum + dot.count, 0),
)
const percent = (share: number) =>
  share === NONE ? t('figures.score_scatter.no_score') : `${Math.round(share * 100)} %`
const say = (dot: Dot) =>
  t('figures.score_scatter.at_the_publisher_in_the', {
    count: dot.count,
    label: kindOf(dot.kind).label,
    x: percent(dot.x),
    y: percent(dot.y),
  })
// Each tone has its own shape, so that colour is never all that tells them apart.
const SHAPES = { quiet: 'circle', left: 'triangle', right: 'rect', alarm: 'diamond', both: 'pin' }
const inkOf = (kind: string) => {
  const { tone } = kindOf(kind)
  return ink(tone === 'quiet' ? 'both' : tone)
}
const axis = (name: string, token: string) => ({
  type: 'value' as const,
  name,
  nameLocation: 'middle' as const,
  nameGap: 26,
  nameTextStyle: { color: ink(token), fontWeight: 600 },
  min: -0.25,
  max: 1.5,
  interval: 0.25,
  axisLabel: {
    formatter: (value: number) => (value < 0 || value > 1 ? '' : `${Math.round(value * 100)}`),
  },
})
const option = computed(() => ({
  grid: { left: 52, right: 14, top: 34, bottom: 44 },
  legend: { type: 'scroll' as const, top: 0, textStyle: { color: ink('ink') } },
  tooltip: {
    trigger: 'item' as const,
    formatter: (at: { data: { dot: Dot } }) => say(at.data.dot),
  },
  dataZoom: [
    { type: 'inside' as const, xAxisIndex: 0 },
    { type: 'inside' as const, yAxisIndex: 0 },
  ],
  xAxis: axis(t('figures.score_scatter.publisher'), 'left'),
  yAxis: axis(t('figures.score_scatter.gradebook'), 'right'),
  series: kinds.value.map((kind, place) => ({
    type: 'scatter' as const,
    name: kindOf(kind).label,
    symbol: SHAPES[kindOf(kind).tone],
    itemStyle: { color: inkOf(kind), opacity: kind === 'agree' ? 0.35 : 0.85 },
    data: of(kind).map((dot) => ({
      value: [dot.x, dot.y],
      dot,
      symbolSize: 9 + Math.min(10, 2 * Math.log2(dot.count)),
    })),
    ...(place === 0
      ? {
          markLine: {
            silent: true,
            symbol: 'none',
            lineStyle: { color: ink('both'), type: 'solid' as const },
            data: [[{ coord: [0, 0] }, { coord: [MOST, MOST] }]],
          },
        }
      : {}),
  })),
}))
const table = computed(() => ({
  head: [
    t('chart.kind'),
    t('figures.venn_figure.publisher'),
    t('chart.gradebook'),
    t('chart.count'),
  ],
  rows: dots.value.map((dot) => [
    kindOf(dot.kind).label,
    percent(dot.x),
    percent(dot.y),
    String(dot.count),
  ]),
}))
function choose(index: number, series: number) {
  const dot = of(kinds.value[series] ?? '')[index]
  const matrix = props.comparison.matrix
  if (dot && dot.kind !== 'agree')
    emit('choose', matrix?.placements?.[dot.column] ?? '', matrix?.people?.[dot.row] ?? '')
}
</script>

<template>
  <ChartFigure
    :option="option"
    :table="table"
    :label="$t('figures.score_scatter.each_score_by_its_share', { off })"
    :height="420"
    @pressed="choose"
  />
  <p class="soft">{{ $t('figures.score_scatter.on_the_line_both_sides') }}</p>
</template>

<style scoped>
p {
  font-size: 0.86rem;
}
</style>
