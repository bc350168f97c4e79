<script setup lang="ts">
import { NStep, NSteps } from 'naive-ui/es/steps'
import { STATIONS } from './useSetUp'

defineProps<{ current: number; done?: boolean }>()
</script>

<template>
  <nav class="stations" :aria-label="$t('set_up.station_steps.stations_of_setting_up')">
    <NSteps :current="current + 1" :status="done ? 'finish' : 'process'" size="small">
      <NStep
        v-for="(station, place) in STATIONS"
        :key="station"
        :title="station"
        :aria-current="place === current ? 'step' : undefined"
      />
    </NSteps>
  </nav>
</template>

<style scoped>
.stations {
  margin: 0.4rem 0 1.2rem;
  padding: 3px 0;
}
@media (max-width: 640px) {
  .stations :deep(.n-step:not([aria-current]) .n-step-content-header__title) {
    display: none; /* the numbers tell the rest */
  }
}
</style>
