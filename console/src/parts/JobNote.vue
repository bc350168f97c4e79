<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

type Progress = Pick<Schemas['Job'], 'done' | 'total' | 'message' | 'remedy'> & { state: string }
const props = defineProps<{ job: Progress; doing: string }>()
const share = computed(() =>
  props.job.total ? Math.round((100 * props.job.done) / props.job.total) : 0,
)
</script>

<template>
  <div
    class="job"
    :class="job.state"
    :role="job.state === 'failed' ? 'alert' : 'status'"
    aria-live="polite"
  >
    <template v-if="job.state === 'failed'">
      <strong>{{ doing }} did not work.</strong> {{ job.message }} {{ job.remedy }}
    </template>
    <template v-else-if="job.state === 'cancelled'"
      ><strong>Stopped.</strong> {{ job.message }} {{ job.remedy }}</template
    >
    <template v-else-if="job.state === 'done'"><strong>Done.</strong> {{ job.message }}.</template>
    <template v-else>
      <div class="row">
        <strong>{{ doing }}</strong><span class="soft">{{ job.message }}</span
        ><span class="push">{{ job.done }} of {{ job.total || '…' }}</span>
      </div>
      <div
        class="track"
        role="progressbar"
        :aria-valuenow="share"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-label="doing"
      >
        <div :style="{ width: share + '%' }"></div>
      </div>
      <p v-if="job.state === 'waiting'" class="soft">{{ job.remedy }}</p>
    </template>
  </div>
</template>

<style scoped>
.job {
  border-radius: 10px;
  padding: 0.7rem 1rem;
  background: var(--both-wash);
  margin: 0.7rem 0;
}
.job.failed {
  background: var(--alarm-wash);
}
.track {
  height: 8px;
  border-radius: 4px;
  background: var(--sheet);
  margin: 0.4rem 0;
  overflow: hidden;
}
.track div {
  height: 100%;
  background: linear-gradient(90deg, var(--left), var(--both), var(--right));
  transition: width 0.3s;
}
</style>
