<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const path = computed(() => ({ pairing_pk: id.value }))
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: relay, error, isPending, refetch } = useQuery({
  queryKey: computed(() => ['pairing', id.value, 'relay']),
  queryFn: () => answered(api.GET('/api/v1/pairings/{pairing_pk}/relay', { params: { path: path.value } })),
  refetchInterval: 3_000,
})
const turn = useMutation({
  mutationFn: (on: boolean) => answered(api.PATCH('/api/v1/pairings/{id}', { params: { path: { id: id.value } }, body: { relay_on: on } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', id.value] }),
})
const again = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/pairings/{pairing_pk}/relay', { params: { path: path.value }, body: { force: false, dry_run: false } })),
  onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', id.value, 'relay'] }),
})
const WORDS: Record<string, string> = { waiting: 'waiting', sending: 'being sent', accepted: 'accepted', refused: 'refused', held: 'held: the relay is off', clash: 'kept back', empty: 'without a score' }
const open = computed(() => (relay.value?.counts.refused ?? 0) + (relay.value?.counts.waiting ?? 0) + (relay.value?.counts.clash ?? 0))
</script>

<template>
  <LoadingNote v-if="isPending" what="the relay" />
  <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
  <div v-else-if="relay">
    <div class="row switch" :class="{ off: !relay.on }">
      <strong>{{ relay.on ? 'The relay is on: each score goes to the gradebook as it comes.' : 'The relay is off: scores are kept, none is sent.' }}</strong>
      <NButton v-if="about?.may_change" class="push" :type="relay.on ? 'default' : 'primary'" :loading="turn.isPending.value" @click="turn.mutate(!relay.on)">{{ relay.on ? 'Turn it off' : 'Turn it on' }}</NButton>
    </div>
    <ProblemNote :error="turn.error.value ?? again.error.value" />
    <div class="row counts">
      <span><b>{{ relay.received }}</b> reports received</span>
      <span v-for="(count, state) in relay.counts" :key="state" :class="state"><b>{{ count }}</b> {{ WORDS[state] ?? state }}</span>
      <NButton v-if="open && relay.on && about?.may_change" class="push" size="small" :loading="again.isPending.value" @click="again.mutate()">Send {{ open }} again</NButton>
    </div>
    <EmptyNote v-if="!relay.cells.length" title="No scores yet"><p>The first one appears here within seconds of a learner handing in.</p></EmptyNote>
    <table v-else class="plain stack">
      <thead><tr><th scope="col">State</th><th scope="col">Learner</th><th scope="col">Item</th><th scope="col" class="number">Sent</th><th scope="col">At</th><th scope="col">Why</th></tr></thead>
      <tbody>
        <tr v-for="cell in relay.cells" :key="cell.learner + cell.item">
          <td data-label="State" :class="cell.state">{{ WORDS[cell.state ?? ''] ?? cell.state }}</td>
          <td data-label="Learner">{{ cell.learner }}</td>
          <td data-label="Item">{{ cell.item }}</td>
          <td data-label="Sent" class="number">{{ cell.sent ?? '–' }}</td>
          <td data-label="At">{{ inZone(cell.sent_at, about?.shell.timezone ?? 'UTC') || '–' }}</td>
          <td data-label="Why" class="soft" :class="{ none: !cell.reason }">{{ cell.reason ? `${cell.reason} ${cell.remedy}` : '' }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.switch { background: var(--both-wash); border-radius: 10px; padding: 0.7rem 1rem; }
.switch.off { background: var(--alarm-wash); }
.counts { margin: 1rem 0; gap: 1.4rem; }
.counts b { font-size: 1.3rem; }
.refused, .clash { color: var(--alarm); font-weight: 600; }
.waiting, .held { color: var(--left); }
</style>
