<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { toRef } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useSettlements } from './useSettlements'
import { t } from '@/words'

/** What was settled, each with its undo; and what an assistant proposes. */
const props = defineProps<{ pairing: string; zone: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const { proposals, others, job, undo, carry, dismiss, asked, seen } = useSettlements(id)
const words = (row: Schemas['SettlementLine']) => {
  const { left, failed } = row.counts
  const count = Object.values(row.counts).reduce((sum, each) => sum + each, 0)
  return [
    t('count.findings', count),
    left && t('reconcile.settlement_list.left', { count: left }),
    failed && t('reconcile.settlement_list.failed', { count: failed }),
  ]
    .filter(Boolean)
    .join(', ')
}
const what = (row: Schemas['SettlementLine']) =>
  row.undone
    ? t('reconcile.settlement_list.taken_back')
    : row.undoes
      ? t('reconcile.settlement_list.took_another_back')
      : t(`reconcile.settlement_list.state.${row.state}`)
const undoable = (row: Schemas['SettlementLine']) =>
  props.mayChange && row.state === 'done' && !row.undone && !row.undoes
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
