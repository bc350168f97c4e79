<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { NButton } from 'naive-ui/es/button'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { kindOf } from '@/logic/kinds'
import AfterReading from '@/parts/AfterReading.vue'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import type { Wanted } from './remedies'
import { useSettling } from './useSettling'
import { t } from '@/words'

/** First exactly what will be written, then the writing. Of an assistant it becomes a proposal. */
const props = defineProps<{
  pairing: string
  comparison: string
  wanted: Wanted
  mayChange: boolean
}>()
const emit = defineEmits<{ close: []; settled: [] }>()
const { preview, reading, steps, unfolded, go, job, running, proposed } = useSettling(
  toRef(props, 'pairing'),
  toRef(props, 'comparison'),
  toRef(props, 'wanted'),
)
const panel = ref<HTMLElement>()
watch(
  () => props.wanted,
  () => nextTick(() => panel.value?.focus()),
  { immediate: true },
)
const action = computed(() => {
  if (!props.mayChange) return t('reconcile.settle.propose_this_to_the_instructor')
  const writes = preview.value?.writes ?? 0
  return writes
    ? t('reconcile.settle.write_to_the_gradebook', { writes })
    : t('reconcile.settle.note_it')
})
</script>

<template>
  <section
    ref="panel"
    class="sheet panel"
    tabindex="-1"
    :aria-label="$t('reconcile.settle.what_will_be_written')"
  >
    <AfterReading :reading="reading" :what="$t('reconcile.settle.what_would_be_written')">
      <template v-if="preview">
        <h2>
          {{
            $t('reconcile.settle.written_to_the_gradebook', {
              finding: $t('count.findings', preview.steps.length),
              writes: preview.writes,
            })
          }}
        </h2>
        <div class="scroll">
          <NTable :bordered="false" class="plain stack">
            <thead>
              <tr>
                <th>{{ $t('reconcile.settle.learner') }}</th>
                <th>{{ $t('reconcile.settle.item') }}</th>
                <th class="number">{{ $t('reconcile.settle.stands') }}</th>
                <th class="number">{{ $t('reconcile.settle.becomes') }}</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(step, place) in steps" :key="place" :class="{ quiet: !step.writes }">
                <td class="wide">{{ step.learner || $t('reconcile.settle.the_column') }}</td>
                <td :data-label="$t('reconcile.settle.item')">
                  <span
                    >{{ step.item
                    }}<span v-if="step.scope !== 'cell'" class="soft">
                      · {{ kindOf(step.kind).label }}</span
                    ></span
                  >
                </td>
                <td class="number right-ink" :data-label="$t('reconcile.settle.stands')">
                  {{ step.before ?? $t('reconcile.settle.nothing') }}
                </td>
                <td class="number" :data-label="$t('reconcile.settle.becomes')">
                  <strong v-if="step.writes">{{
                    step.after ?? $t('reconcile.settle.nothing')
                  }}</strong><span v-else class="soft">{{ $t('reconcile.settle.stays') }}</span>
                </td>
                <td class="soft none">{{ step.writes ? '' : step.words }}</td>
              </tr>
            </tbody>
          </NTable>
        </div>
        <NButton v-if="steps.length < preview.steps.length" size="small" @click="unfolded = true">
          {{ $t('reconcile.settle.show_more', { steps: preview.steps.length - steps.length }) }}
        </NButton>
        <JobNote v-if="job" :job="job" :doing="$t('reconcile.settle.settling')" />
        <p v-if="proposed" role="status">
          <strong>{{ $t('reconcile.settle.proposed') }}</strong>
          {{ $t('reconcile.settle.an_instructor_sees_it_here') }}
        </p>
        <ProblemNote :error="go.error.value" />
        <div class="row">
          <NButton
            v-if="!job && !proposed"
            type="primary"
            :loading="go.isPending.value"
            @click="go.mutate()"
            >{{ action }}</NButton
          >
          <NButton quaternary :disabled="running" @click="job ? emit('settled') : emit('close')">{{
            job
              ? $t('reconcile.settle.close_and_compare_again')
              : proposed
                ? $t('reconcile.settle.close')
                : $t('reconcile.settle.change_nothing')
          }}</NButton>
          <span v-if="!job && !proposed" class="soft">{{
            $t('reconcile.settle.each_cell_is_looked_at')
          }}</span>
        </div>
      </template>
    </AfterReading>
    <NButton v-if="reading.error.value" quaternary @click="emit('close')">{{
      $t('reconcile.settle.close')
    }}</NButton>
  </section>
</template>

<style scoped>
.panel {
  border: 2px solid var(--both);
  margin-bottom: 1rem;
}
.quiet td {
  color: var(--soft);
}
.row {
  margin-top: 0.6rem;
}
</style>
