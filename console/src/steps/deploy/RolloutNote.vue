<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'

const props = defineProps<{ rollout: Schemas['WholeRollout'] }>()
const jobId = ref<string | undefined>(props.rollout.job.id)
const { job, running } = useJob(jobId, ref(props.rollout.pairing))
const stop = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/operations/{id}/stop', { params: { path: { id: props.rollout.job.id } } }),
    ),
})
const doing = computed(
  () =>
    ({
      deploy: 'Deploying',
      order: 'Ordering',
      take_back: 'Taking back',
      mend: 'Mending',
      undo: 'Undoing',
    })[props.rollout.purpose as string] ?? 'Working',
)
</script>

<template>
  <div>
    <JobNote v-if="job" :job="job" :doing="`${doing} in ${rollout.shell}`" />
    <ProblemNote :error="stop.error.value" />
    <p class="row">
      <NButton v-if="running" size="small" :loading="stop.isPending.value" @click="stop.mutate()"
        >Stop</NButton
      >
      <RouterLink v-else-if="job" :to="{ name: 'rollouts', params: { pairing: rollout.pairing } }"
        >See each step, do again what failed, or undo it</RouterLink
      >
    </p>
  </div>
</template>
