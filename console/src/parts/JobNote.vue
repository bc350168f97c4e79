<script setup lang="ts">
import { NProgress } from 'naive-ui/es/progress'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** How far a job is, and how it ended; ``doing`` names it, as "Import from the publisher". */
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
      <strong>{{ $t('job.failed', { doing }) }}</strong> {{ job.message }} {{ job.remedy }}
    </template>
    <template v-else-if="job.state === 'cancelled'"
      ><strong>{{ $t('job.stopped') }}</strong> {{ job.message }} {{ job.remedy }}</template
    >
    <template v-else-if="job.state === 'done'"
      ><strong>{{ $t('job.done') }}</strong> {{ job.message }}.</template
    >
    <template v-else>
      <div class="row">
        <strong>{{ doing }}</strong><span class="soft">{{ job.message }}</span
        ><span class="push">{{
          $t('job.share', { done: job.done, total: job.total || '…' })
        }}</span>
      </div>
      <NProgress
        :percentage="share"
        :show-indicator="false"
        :height="8"
        :aria-label="doing"
        color="var(--both)"
        rail-color="var(--sheet)"
      />
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
</style>
