<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { planUndo, undoOperation } from '@/steps/operations/operations'
import { settlementsQuery } from './queries'
import { t } from '@/words'

/** What was settled, each with its undo; and what an assistant proposes. */
const props = defineProps<{ pairing: string; zone: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const { data: rows } = useQuery(computed(() => settlementsQuery(id.value)))
const jobId = ref<string>()
const { job } = useJob(jobId, id)
const path = (settlement: string) => ({
  params: { path: { pairing_pk: id.value, id: settlement } },
})
const follow = (found: Schemas['Job'] | null | undefined) => {
  jobId.value = found?.id
  client.invalidateQueries({ queryKey: ['pairing', id.value] })
}
const undo = useMutation({
  mutationFn: (row: Schemas['SettlementLine']) => undoOperation(row.job!.id),
  onSuccess: async (begun) =>
    follow(await answered(api.GET('/api/v1/jobs/{id}', { params: { path: { id: begun.id } } }))),
})
const carry = useMutation({
  mutationFn: (settlement: string) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/settlements/{id}/carry-out', path(settlement)),
    ),
  onSuccess: (made) => follow(made.job),
})
const dismiss = useMutation({
  mutationFn: (settlement: string) =>
    answered(api.POST('/api/v1/pairings/{pairing_pk}/settlements/{id}/dismiss', path(settlement))),
  onSuccess: () => follow(null),
})
const asked = ref<string>()
const seen = useMutation({
  mutationFn: (row: Schemas['SettlementLine']) => planUndo(row.job!.id),
  onSuccess: (_, row) => (asked.value = row.id),
})
const words = (row: Schemas['SettlementLine']) => {
  const count = Object.values(row.counts).reduce((sum, each) => sum + each, 0)
  const parts = Object.entries(row.counts)
    .filter(([state]) => ['left', 'failed'].includes(state))
    .map(([state, each]) => `${each} ${state}`)
  return `${t('count.findings', count)}${parts.length ? `, ${parts.join(', ')}` : ''}`
}
const what = (row: Schemas['SettlementLine']) =>
  row.undone
    ? t('reconcile.settlement_list.taken_back')
    : row.undoes
      ? t('reconcile.settlement_list.took_another_back')
      : row.state
const undoable = (row: Schemas['SettlementLine']) =>
  props.mayChange && row.state === 'done' && !row.undone && !row.undoes
const proposals = computed(() => rows.value?.filter((row) => row.state === 'proposed') ?? [])
const others = computed(() => rows.value?.filter((row) => row.state !== 'proposed') ?? [])
</script>

<template>
  <section
    v-if="proposals.length"
    class="sheet proposals"
    :aria-label="$t('reconcile.settlement_list.proposals')"
  >
    <h2>{{ $t('reconcile.settlement_list.proposed_by_an_assistant') }}</h2>
    <div v-for="row in proposals" :key="row.id" class="row">
      <span
        ><strong>{{ row.made_by }}</strong>
        {{ $t('reconcile.settlement_list.would_settle', { row: words(row) }) }}</span
      >
      <span v-if="mayChange" class="push row"
        ><NButton size="small" type="primary" @click="carry.mutate(row.id)">{{
          $t('reconcile.settlement_list.carry_it_out')
        }}</NButton
        ><NButton size="small" quaternary @click="dismiss.mutate(row.id)">{{
          $t('reconcile.settlement_list.put_aside')
        }}</NButton></span
      >
    </div>
  </section>
  <section v-if="others.length" aria-labelledby="settled">
    <h2 id="settled">{{ $t('reconcile.settlement_list.settled_before') }}</h2>
    <JobNote
      v-if="job && job.state !== 'done'"
      :job="job"
      :doing="$t('reconcile.settlement_list.working')"
    />
    <ProblemNote
      :error="undo.error.value ?? carry.error.value ?? dismiss.error.value ?? seen.error.value"
    />
    <ul>
      <li v-for="row in others" :key="row.id" class="row">
        <span class="soft">{{ inZone(row.made_at, zone) }}</span>
        <span
          >{{ words(row) }}, {{ what(row)
          }}{{
            row.made_by ? $t('reconcile.settlement_list.by', { made_by: row.made_by }) : ''
          }}</span
        >
        <span v-if="undoable(row)" class="push row">
          <template v-if="asked === row.id && seen.data.value">
            <span>{{
              $t('reconcile.settlement_list.takes_back', {
                finding: $t('count.findings', seen.data.value.length),
              })
            }}</span>
            <NButton
              size="tiny"
              type="primary"
              :loading="undo.isPending.value"
              @click="undo.mutate(row)"
              >{{ $t('reconcile.settlement_list.undo_it') }}</NButton
            >
          </template>
          <NButton v-else size="tiny" quaternary @click="seen.mutate(row)"
            >{{ $t('reconcile.settlement_list.undo')
            }}<span class="sr-only">
              {{
                $t('reconcile.settlement_list.what_was_settled', {
                  made_at: inZone(row.made_at, zone),
                })
              }}</span
            ></NButton
          >
        </span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
.proposals {
  border-top: 4px solid var(--both);
  margin-bottom: 1rem;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 0.35rem 0;
  border-bottom: 1px solid var(--rule);
}
section {
  margin-top: 1.2rem;
}
</style>
