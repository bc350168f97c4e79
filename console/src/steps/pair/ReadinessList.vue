<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { tryPopup, useBrowserChecks } from '@/parts/browser'
import MoreBelow from '@/parts/MoreBelow.vue'

/** What a pairing needs: what is open first, with what to do; what passes is below. */
const props = defineProps<{ checks: readonly Schemas['Check'][] }>()
const { troubles, popups } = useBrowserChecks()
const passed = computed(() => props.checks.filter((check) => check.state === 'ok'))
const open = computed(() => [
  ...props.checks.filter((check) => check.state !== 'ok'),
  ...troubles.value.map((each) => ({ ...each, state: 'warn' as const })),
])
</script>

<template>
  <ul class="checks">
    <li v-for="check in open" :key="check.code" :class="check.state">
      <span class="mark" aria-hidden="true">{{ check.state === 'fail' ? '×' : '!' }}</span>
      <span
        ><span class="sr-only"
          >{{ check.state === 'fail' ? $t('pair.fails') : $t('pair.look') }} </span
        >{{ check.message
        }}<span v-if="check.remedy" class="soft remedy">{{ check.remedy }}</span></span
      >
    </li>
  </ul>
  <MoreBelow :title="$t('pair.pass', { done: passed.length, total: checks.length })">
    <ul class="checks">
      <li v-for="check in passed" :key="check.code" class="ok">
        <span class="mark" aria-hidden="true">✓</span
        ><span
          ><span class="sr-only">{{ $t('pair.passes') }} </span>{{ check.message }}</span
        >
      </li>
    </ul>
  </MoreBelow>
  <p class="row">
    <NButton size="small" @click="tryPopup()">{{ $t('pair.try_popups') }}</NButton><span
      v-if="popups === 'open'"
      class="soft"
      role="status"
      >{{ $t('pair.popups_open') }}</span
    >
  </p>
</template>

<style scoped>
.checks {
  list-style: none;
  padding: 0;
  margin: 0;
}
.checks li {
  display: flex;
  gap: 0.7rem;
  padding: 0.35rem 0;
  border-bottom: 1px solid var(--rule);
}
.mark {
  flex: none;
  font-weight: 700;
  width: 1rem;
  text-align: center;
}
.fail .mark {
  color: var(--alarm);
}
.warn .mark {
  color: var(--left);
}
.ok .mark {
  color: var(--good);
}
.remedy {
  display: block;
}
</style>
