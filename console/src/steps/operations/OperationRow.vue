<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { RouterLink } from 'vue-router'
import { inZone } from '@/logic/dates'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { isGoing, type Operation, useOperation } from './operations'
import OperationSteps from './OperationSteps.vue'
import UndoPreview from './UndoPreview.vue'

const props = defineProps<{
  operation: Operation
  zone: string
  named?: boolean
  mayChange: boolean
}>()
const { open, steps, stop, retry, look, undo, error } = useOperation(toRef(props, 'operation'))
const may = (what: Operation['may'][number]) =>
  props.mayChange && props.operation.may.includes(what)
const failed = computed(() => props.operation.counts.failed ?? 0)
const WORDS: Record<string, string> = {
  proposed: 'Proposed: an instructor carries it out or dismisses it',
  queued: 'Waiting for a worker',
  waiting: 'Waiting for the other side',
  failed: 'Failed',
  stopped: 'Stopped',
  dismissed: 'Dismissed',
}
const how = computed(() =>
  props.operation.undone
    ? 'Undone since'
    : [WORDS[props.operation.state], props.operation.message].filter(Boolean).join(': '),
)
</script>

<template>
  <li class="sheet" :class="{ alarm: operation.state === 'failed' || failed > 0 }">
    <div class="row">
      <strong
        >{{ operation.says
        }}<RouterLink v-if="named" :to="operation.link" class="shell">{{
          operation.shell
        }}</RouterLink></strong
      >
      <span class="soft"
        >{{ inZone(operation.made_at, zone) }}, {{ operation.made_by }} · {{ how }}</span
      >
      <span v-if="failed" class="failed">{{ failed }} not done</span>
      <NButton class="push" size="small" :aria-expanded="open" @click="open = !open">{{
        open ? 'Hide steps' : 'Steps'
      }}</NButton>
      <NButton
        v-if="may('stop')"
        size="small"
        :loading="stop.isPending.value"
        @click="stop.mutate()"
        >Stop</NButton
      >
      <NButton
        v-if="may('retry')"
        size="small"
        type="primary"
        :loading="retry.isPending.value"
        @click="retry.mutate()"
        >Do those again</NButton
      >
      <NButton
        v-if="may('undo')"
        size="small"
        quaternary
        :loading="look.isPending.value"
        @click="((open = true), look.mutate())"
        >Undo …</NButton
      >
    </div>
    <JobNote v-if="isGoing(operation)" :job="operation" :doing="operation.says" />
    <p v-else-if="operation.remedy" class="soft">{{ operation.remedy }}</p>
    <ProblemNote :error="error" />
    <UndoPreview
      v-if="open && look.data.value"
      :rows="look.data.value"
      :pending="undo.isPending.value"
      @undo="undo.mutate()"
    />
    <OperationSteps v-if="open && steps" :steps="steps" />
  </li>
</template>

<style scoped>
li {
  margin-bottom: 0.6rem;
}
li.alarm {
  border-left: 4px solid var(--alarm);
}
.shell {
  margin-left: 0.6rem;
  font-weight: 500;
}
.failed {
  color: var(--alarm);
  font-weight: 600;
}
p {
  margin: 0.4rem 0 0;
}
</style>
