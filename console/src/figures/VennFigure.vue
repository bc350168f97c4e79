<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { t } from '@/words'
import { rowsOf } from './vennRows'

const props = defineProps<{ pairing: string; venn: Schemas['Venn'] }>()

const rows = computed(() => rowsOf(props.pairing, props.venn))
const words = [
  t('figures.venn_figure.only_at_the_publisher'),
  t('figures.venn_figure.on_both_sides'),
  t('figures.venn_figure.only_in_the_shell'),
]
</script>

<template>
  <figure class="venn" :aria-label="$t('figures.venn_figure.what_stands_on_which_side')">
    <svg viewBox="0 0 600 400" aria-hidden="true">
      <circle class="a" cx="200" cy="200" r="197" />
      <circle class="b" cx="400" cy="200" r="197" />
    </svg>
    <div class="grid">
      <div class="head left-ink">{{ $t('figures.venn_figure.publisher') }}</div>
      <div class="head mid">{{ $t('figures.venn_figure.both') }}</div>
      <div class="head right-ink">{{ $t('figures.venn_figure.shell') }}</div>
      <template v-for="row in rows" :key="row.name">
        <div
          v-for="(count, side) in row.counts"
          :key="side"
          class="number"
          :class="{ zero: count === 0 }"
        >
          <RouterLink
            :to="row.links[side]!"
            :aria-label="`${$t(`count.${row.name}`, count)} ${words[side]}`"
            >{{ count }}</RouterLink
          >
          <span>{{ $t(`figures.venn_figure.${row.name}`, count) }}</span>
          <em v-if="side === 1 && row.note">{{ row.note }}</em>
        </div>
      </template>
    </div>
  </figure>
</template>

<style scoped>
.venn {
  position: relative;
  margin: 0;
  max-width: 41rem;
  aspect-ratio: 3 / 2;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2.5;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 2.5;
  fill-opacity: 0.62;
}
.grid {
  position: absolute;
  inset: 12% 1% 11%;
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  grid-template-rows: auto repeat(3, 1fr);
  text-align: center;
  align-items: center;
}
.head {
  font-size: 0.85rem;
}
.mid {
  color: var(--both);
  font-weight: 600;
}
.number {
  line-height: 1.1;
}
.number a {
  font-size: 1.75rem;
  font-weight: 650;
  color: var(--ink);
  text-decoration: none;
  font-variant-numeric: tabular-nums;
}
.number a:hover {
  text-decoration: underline;
}
.number.zero a {
  font-weight: 400;
  color: var(--soft);
}
.number span {
  display: block;
  font-size: 0.8rem;
  color: var(--ink);
  opacity: 0.8;
}
.number em {
  display: block;
  max-width: 5.4rem;
  margin: 0.2rem auto 0;
  font-style: normal;
  font-size: 0.8rem;
  font-weight: 650;
  color: var(--alarm);
}
@media (max-width: 640px) {
  .number a {
    font-size: 1.2rem;
  }
  .number span,
  .number em,
  .head {
    font-size: 0.72rem;
  }
}
</style>
