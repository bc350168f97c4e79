<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, nextTick, ref, toRef, watch } from 'vue'
import { answered, api } from '@/api/client'
import { many } from '@/logic/counting'
import { kindOf } from '@/logic/kinds'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import type { Wanted } from './remedies'

/** First exactly what will be written, then the writing. Of an assistant it becomes a proposal. */
const props = defineProps<{
  pairing: string
  comparison: string
  wanted: Wanted
  mayChange: boolean
}>()
const emit = defineEmits<{ close: []; settled: [] }>()
const id = toRef(props, 'pairing')
const ask = (dry: boolean) =>
  answered(
    api.POST('/api/v1/pairings/{pairing_pk}/settlements', {
      params: { path: { pairing_pk: id.value } },
      body: { comparison: props.comparison, ...props.wanted, dry_run: dry },
    }),
  )
const {
  data: preview,
  error,
  isPending,
} = useQuery({
  queryKey: computed(() => ['preview', props.comparison, props.wanted]),
  queryFn: () => ask(true),
  gcTime: 0,
})
const jobId = ref<string>()
const { job, running } = useJob(jobId, id)
const proposed = ref(false)
const go = useMutation({
  mutationFn: () => ask(false),
  onSuccess: (made) => {
    jobId.value = made.settlement?.job?.id
    proposed.value = made.settlement?.state === 'proposed'
  },
})
const FIRST = 12
const unfolded = ref(false)
const steps = computed(
  () => (unfolded.value ? preview.value?.steps : preview.value?.steps.slice(0, FIRST)) ?? [],
)
const panel = ref<HTMLElement>()
watch(
  () => props.wanted,
  () => nextTick(() => panel.value?.focus()),
  { immediate: true },
)
const action = computed(() => {
  if (!props.mayChange) return 'Propose this to the instructor'
  const writes = preview.value?.writes ?? 0
  return writes ? `Write ${writes} to the gradebook` : 'Note it'
})
</script>

<template>
  <section ref="panel" class="sheet panel" tabindex="-1" aria-label="What will be written">
    <LoadingNote v-if="isPending" what="what would be written" />
    <ProblemNote v-else-if="error" :error="error" />
    <template v-else-if="preview">
      <h2>
        {{ many(preview.steps.length, 'finding') }}, {{ preview.writes }} written to the gradebook
      </h2>
      <div class="scroll">
        <table class="plain stack">
          <thead>
            <tr>
              <th>Learner</th>
              <th>Item</th>
              <th class="number">stands</th>
              <th class="number">becomes</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(step, place) in steps" :key="place" :class="{ quiet: !step.writes }">
              <td class="wide">{{ step.learner || 'The column' }}</td>
              <td data-label="Item">
                <span
                  >{{ step.item
                  }}<span v-if="step.scope !== 'cell'" class="soft">
                    · {{ kindOf(step.kind).label }}</span
                  ></span
                >
              </td>
              <td class="number right-ink" data-label="stands">{{ step.before ?? 'nothing' }}</td>
              <td class="number" data-label="becomes">
                <strong v-if="step.writes">{{ step.after ?? 'nothing' }}</strong><span
                  v-else
                  class="soft"
                  >stays</span
                >
              </td>
              <td class="soft none">{{ step.writes ? '' : step.words }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <button
        v-if="steps.length < preview.steps.length"
        type="button"
        class="more"
        @click="unfolded = true"
      >
        Show {{ preview.steps.length - steps.length }} more
      </button>
      <JobNote v-if="job" :job="job" doing="Settling" />
      <p v-if="proposed" role="status">
        <strong>Proposed.</strong> An instructor sees it here and carries it out.
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
          job ? 'Close and compare again' : proposed ? 'Close' : 'Change nothing'
        }}</NButton>
        <span v-if="!job && !proposed" class="soft"
          >Each cell is looked at again before and read back after; undo puts the old values
          back.</span
        >
      </div>
    </template>
    <NButton v-if="error" quaternary @click="emit('close')">Close</NButton>
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
.more {
  font: inherit;
  color: var(--both);
  background: none;
  border: 0;
  padding: 0.4rem 0;
  text-decoration: underline;
  cursor: pointer;
}
</style>
