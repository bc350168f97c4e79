<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { t } from '@/words'

const props = defineProps<{ left: number; both: number; barred: number }>()
const label = computed(() =>
  t('figures.import_figure.entries_only_in_the_package', {
    left: props.left,
    both: props.both,
    barred: props.barred,
  }),
)
</script>

<template>
  <figure :aria-label="label">
    <svg viewBox="0 0 250 130">
      <circle cx="88" cy="65" r="58" class="left" />
      <circle cx="158" cy="65" r="58" class="right" />
      <RouterLink
        :to="{ query: { look: 'package' } }"
        :aria-label="$t('figures.import_figure.only_in_the_package', { left })"
      >
        <text x="62" y="62" class="number left-number">{{ left }}</text>
        <text x="62" y="80">{{ $t('figures.import_figure.package') }}</text>
      </RouterLink>
      <RouterLink
        :to="{ query: { look: 'shell' } }"
        :aria-label="$t('figures.import_figure.in_the_shell', { both })"
      >
        <text x="123" y="62" class="number both-number">{{ both }}</text>
        <text x="123" y="80">{{ $t('figures.import_figure.both') }}</text>
      </RouterLink>
      <text x="188" y="70" class="side">{{ $t('figures.import_figure.shell') }}</text>
    </svg>
    <figcaption v-if="barred">
      <RouterLink :to="{ query: { look: 'barred' } }">{{
        $t('figures.import_figure.cannot_come_in', { barred })
      }}</RouterLink>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  width: 15rem;
  max-width: 100%;
  text-align: center;
}
svg {
  display: block;
  width: 100%;
}
.left {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 2.5;
}
.right {
  fill: var(--right-wash);
  fill-opacity: 0.7;
  stroke: var(--right);
  stroke-width: 2.5;
  stroke-dasharray: 7 4;
}
text {
  text-anchor: middle;
  font-size: 11.5px;
  fill: var(--ink);
}
.number {
  font-size: 24px;
  font-weight: 700;
}
.left-number {
  fill: var(--left);
}
.both-number {
  fill: var(--both);
}
.side {
  fill: var(--right);
  font-weight: 600;
}
figcaption {
  font-size: 0.88rem;
}
</style>
