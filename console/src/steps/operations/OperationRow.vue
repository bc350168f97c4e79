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
import { t } from '@/words'

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
  proposed: t('operations.operation_row.proposed_an_instructor_carries_it'),
  queued: t('operations.operation_row.waiting_for_a_worker'),
  waiting: t('operations.operation_row.waiting_for_the_other_side'),
  failed: t('operations.operation_row.failed'),
  stopped: t('operations.operation_row.stopped'),
  dismissed: t('operations.operation_row.dismissed'),
}
const how = computed(() =>
  props.operation.undone
    ? t('operations.operation_row.undone_since')
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
      <span v-if="failed" class="failed">{{
        $t('operations.operation_row.not_done', { failed })
      }}</span>
      <NButton class="push" size="small" :aria-expanded="open" @click="open = !open">{{
        open ? $t('operations.operation_row.hide_steps') : $t('operations.operation_row.steps')
      }}</NButton>
      <NButton
        v-if="may('stop')"
        size="small"
        :loading="stop.isPending.value"
        @click="stop.mutate()"
        >{{ $t('operations.operation_row.stop') }}</NButton
      >
      <NButton
        v-if="may('retry')"
        size="small"
        type="primary"
        :loading="retry.isPending.value"
        @click="retry.mutate()"
        >{{ $t('operations.operation_row.do_those_again') }}</NButton
      >
      <NButton
        v-if="may('undo')"
        size="small"
        quaternary
        :loading="look.isPending.value"
        @click="((open = true), look.mutate())"
        >{{ $t('operations.operation_row.undo') }}</NButton
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
