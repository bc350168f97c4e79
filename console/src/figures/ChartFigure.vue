<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { NTable } from 'naive-ui/es/table'
import { computed, ref } from 'vue'
import VChart from 'vue-echarts'
import type { EChartsCoreOption } from 'echarts/core'
import { density } from '@/frame/preferences'
import MoreBelow from '@/parts/MoreBelow.vue'
import { ink } from './chartTheme'
import './echarts'

/** A chart with what it shows in words, and as a table for who would rather read it. */
const props = defineProps<{
  option: EChartsCoreOption
  table: { head: string[]; rows: string[][] }
  label: string
  height?: number
}>()
const emit = defineEmits<{ pressed: [index: number, series: number] }>()
const still = useMediaQuery('(prefers-reduced-motion: reduce)')
const asTable = ref(false)
const axis = () => ({
  axisLine: { lineStyle: { color: ink('soft') } },
  axisLabel: { color: ink('soft') },
  splitLine: { lineStyle: { color: ink('rule') } },
})
/** Our inks on what an axis brings of its own. */
function inked(given: unknown): unknown {
  if (Array.isArray(given)) return given.map(inked)
  if (!given) return given
  const own = given as { axisLabel?: object }
  const inks = axis()
  return { ...inks, ...own, axisLabel: { ...inks.axisLabel, ...own.axisLabel } }
}
const full = computed(() => ({
  animation: !still.value,
  aria: { enabled: true, decal: { show: false }, label: { description: props.label } },
  textStyle: { fontFamily: 'inherit', fontSize: density.value === 'roomy' ? 12 : 11 },
  ...props.option,
  tooltip: {
    confine: true,
    backgroundColor: ink('sheet'),
    borderColor: ink('rule'),
    textStyle: { color: ink('ink') },
    ...(props.option.tooltip as object | undefined),
  },
  xAxis: inked(props.option.xAxis),
  yAxis: inked(props.option.yAxis),
}))
const pressed = (event: { dataIndex?: number; seriesIndex?: number }) =>
  emit('pressed', event.dataIndex ?? -1, event.seriesIndex ?? -1)
</script>

<template>
  <figure>
    <VChart
      :option="full"
      :style="{ height: `${height ?? 220}px` }"
      role="img"
      :aria-label="label"
      autoresize
      @click="pressed"
    />
    <MoreBelow v-model:open="asTable" :title="$t('chart.as_table')">
      <div class="scroll" tabindex="0" role="region" :aria-label="label">
        <NTable size="small" :bordered="false" :single-line="true" :aria-label="label">
          <thead>
            <tr>
              <th v-for="title in table.head" :key="title" scope="col">{{ title }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, place) in table.rows" :key="place">
              <td v-for="(cell, column) in row" :key="column">{{ cell }}</td>
            </tr>
          </tbody>
        </NTable>
      </div>
    </MoreBelow>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.scroll {
  max-height: 20rem;
  overflow: auto;
}
</style>
