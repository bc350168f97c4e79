<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { t } from '@/words'

/** Each comparison a bar: what agreed below, what did not above, the newest at the right. */
const props = defineProps<{ history: readonly Schemas['ComparisonLine'][]; zone: string }>()
const H = 64
const bars = computed(() => {
  const rows = [...props.history].reverse()
  const most = Math.max(1, ...rows.map((each) => each.summary?.cells ?? 0))
  return rows.map((each) => {
    const cells = each.summary?.cells ?? 0
    const agree = each.summary?.kinds.agree ?? 0
    const up = (count: number) => (count / most) * H
    return {
      each,
      agree: up(agree),
      apart: cells > agree ? Math.max(3, up(cells - agree)) : 0,
      words: t('reconcile.trend_figure.agree_do_not_new', {
        at: inZone(each.at, props.zone),
        agree,
        agree2: cells - agree,
        new: each.summary?.new ?? 0,
      }),
    }
  })
})
</script>

<template>
  <figure>
    <div
      class="bars"
      role="img"
      :aria-label="
        $t('reconcile.trend_figure.the_last_comparisons', {
          bars: bars.length,
          words: bars.map((bar) => bar.words).join('; '),
        })
      "
    >
      <span v-for="bar in bars" :key="bar.each.id" class="bar" :title="bar.words"
        ><i class="apart" :style="{ height: `${bar.apart}px` }"></i
        ><i class="agree" :style="{ height: `${bar.agree}px` }"></i
      ></span>
    </div>
    <figcaption class="soft">
      {{ $t('reconcile.trend_figure.the_last_comparisons_2', { bars: bars.length }) }}
      <span class="alarm">{{ $t('reconcile.trend_figure.what_did_not_agree') }}</span>
      {{ $t('reconcile.trend_figure.stands_above') }}
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
}
.bars {
  display: flex;
  align-items: flex-end;
  gap: 4px;
  height: 84px;
}
.bar {
  display: flex;
  flex-direction: column;
  justify-content: flex-end;
  width: 14px;
  height: 100%;
}
.bar i {
  display: block;
}
.apart {
  background: var(--alarm);
  border-radius: 3px 3px 0 0;
}
.agree {
  background: var(--both-wash);
  border-top: 1px solid var(--both);
}
figcaption {
  font-size: 0.86rem;
  margin-top: 0.3rem;
}
.alarm {
  color: var(--alarm);
  font-weight: 600;
}
</style>
