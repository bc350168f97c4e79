<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { ago } from '@/logic/dates'
import { t } from '@/words'

const props = defineProps<{ need: Schemas['Need'] }>()
const what = computed(() =>
  t(
    `need.${props.need.code}.what`,
    { n: props.need.count, name: props.need.name },
    props.need.count,
  ),
)
</script>

<template>
  <li class="sheet" :class="need.level">
    <svg viewBox="0 0 34 22" width="34" height="22" aria-hidden="true">
      <circle cx="12" cy="11" r="9" class="a" />
      <circle cx="22" cy="11" r="9" class="b" />
    </svg>
    <p>
      <strong v-if="need.shell">{{ need.shell }}: </strong><span class="what">{{ what }}</span>
      {{ $t(`need.${need.code}.do`) }}
      <span v-if="need.since" class="soft">{{ $t('today.since', { ago: ago(need.since) }) }}</span>
    </p>
    <RouterLink class="go" :to="need.link"
      >{{ $t(`need.${need.code}.go`)
      }}<span v-if="need.shell" class="sr-only">: {{ need.shell }}</span></RouterLink
    >
  </li>
</template>

<style scoped>
li {
  display: flex;
  gap: 0.9rem;
  align-items: center;
  padding: 0.6rem 0.9rem;
  border-left-width: 4px;
}
li.urgent {
  border-left-color: var(--alarm);
}
li.soon {
  border-left-color: var(--both);
}
p {
  flex: 1;
  margin: 0;
  min-width: 0;
}
.what {
  font-weight: 600;
}
.urgent .what {
  color: var(--alarm);
}
.a {
  fill: var(--left-wash);
  stroke: var(--left);
  stroke-width: 1.6;
}
.b {
  fill: var(--right-wash);
  stroke: var(--right);
  stroke-width: 1.6;
  fill-opacity: 0.7;
}
.urgent circle {
  stroke-dasharray: 4 2;
}
@media (max-width: 640px) {
  li {
    flex-wrap: wrap;
  }
  svg {
    display: none;
  }
  p {
    flex-basis: 100%;
  }
}
</style>
