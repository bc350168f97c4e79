<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import { useRollout } from './useRollout'

const props = defineProps<{ rollout: Schemas['WholeRollout'] }>()
const { job, running, stop } = useRollout(props.rollout)
const doing = computed(
  () =>
    ({
      deploy: t('deploy.rollout_note.deploying'),
      order: t('deploy.rollout_note.ordering'),
      take_back: t('deploy.rollout_note.taking_back'),
      mend: t('deploy.rollout_note.mending'),
      undo: t('deploy.rollout_note.undoing'),
    })[props.rollout.purpose as string] ?? t('deploy.rollout_note.working'),
)
</script>

<template>
  <div>
    <JobNote
      v-if="job"
      :job="job"
      :doing="$t('deploy.rollout_note.in', { doing, shell: rollout.shell })"
    />
    <ProblemNote :error="stop.error.value" />
    <p class="row">
      <NButton v-if="running" size="small" :loading="stop.isPending.value" @click="stop.mutate()">{{
        $t('deploy.rollout_note.stop')
      }}</NButton>
      <RouterLink
        v-else-if="job"
        :to="{ name: 'rollouts', params: { pairing: rollout.pairing } }"
        >{{ $t('deploy.rollout_note.see_each_step_do_again') }}</RouterLink
      >
    </p>
  </div>
</template>
