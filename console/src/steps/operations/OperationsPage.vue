<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ownZone, zoneName } from '@/logic/dates'
import OperationList from './OperationList.vue'
import type { Wanted } from './operations'
import { t } from '@/words'

const route = useRoute()
const router = useRouter()
const zone = ownZone()
const STATES: { label: string; value: '' | NonNullable<Wanted['state']> }[] = [
  { label: t('operations.operations.everything'), value: '' },
  { label: t('operations.operations.under_way'), value: 'going' },
  { label: t('operations.operations.proposed'), value: 'proposed' },
  { label: t('operations.operations.failed'), value: 'failed' },
  { label: t('operations.operations.stopped'), value: 'stopped' },
  { label: t('operations.operations.done'), value: 'done' },
]
const state = computed({
  get: () => STATES.find((each) => each.value === route.query.state)?.value ?? '',
  set: (now) => router.replace({ query: now ? { state: now } : {} }),
})
const wanted = computed<Wanted>(() => (state.value ? { state: state.value } : {}))
</script>

<template>
  <div class="page">
    <div class="row">
      <h1>{{ $t('operations.operations.operations') }}</h1>
      <div class="push row" role="group" :aria-label="$t('operations.operations.which_operations')">
        <NButton
          v-for="each in STATES"
          :key="each.value"
          size="small"
          :type="state === each.value ? 'primary' : 'default'"
          :aria-pressed="state === each.value"
          @click="state = each.value"
          >{{ each.label }}</NButton
        >
      </div>
    </div>
    <p class="soft">
      {{ $t('operations.operations.everything_that_was_is_or') }}
      {{ $t('common.your_time_zone', { zone: zoneName(zone) }) }}
    </p>
    <OperationList
      :wanted="wanted"
      :zone="zone"
      named
      may-change
      :empty="
        state
          ? $t('operations.operations.nothing_is_in_this_state')
          : $t('operations.operations.nothing_was_written_to_a')
      "
    />
  </div>
</template>

<style scoped>
p {
  margin: 0.6rem 0;
}
</style>
