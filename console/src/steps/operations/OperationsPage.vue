<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import OperationList from './OperationList.vue'

const route = useRoute()
const router = useRouter()
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
const STATES = [
  { label: 'Everything', value: '' },
  { label: 'Under way', value: 'going' },
  { label: 'Proposed', value: 'proposed' },
  { label: 'Failed', value: 'failed' },
  { label: 'Stopped', value: 'stopped' },
  { label: 'Done', value: 'done' },
]
const state = computed({
  get: () => String(route.query.state ?? ''),
  set: (now) => router.replace({ query: now ? { state: now } : {} }),
})
const wanted = computed(() => (state.value ? { state: state.value } : {}))
</script>

<template>
  <div class="page">
    <div class="row">
      <h1>Operations</h1>
      <div class="push row" role="group" aria-label="Which operations">
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
    <p class="soft">Everything that was, is or will be written to your shells.</p>
    <OperationList
      :wanted="wanted"
      :zone="zone"
      named
      may-change
      :empty="state ? 'Nothing is in this state' : 'Nothing was written to a shell yet'"
    />
  </div>
</template>

<style scoped>
p {
  margin: 0.6rem 0;
}
</style>
