<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { ENDED } from '@/parts/job'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import { exportsQuery, rolloutQuery, rolloutsQuery } from './queries'
import RolloutNote from './RolloutNote.vue'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: rollouts, error, isPending } = useQuery(computed(() => rolloutsQuery(id.value)))
const { data: saved } = useQuery(computed(() => exportsQuery(id.value)))
const open = ref('')
const { data: whole } = useQuery(computed(() => rolloutQuery(id.value, open.value)))
const begun = ref<Schemas['WholeRollout'][]>([])
const path = (rollout: string) => ({ pairing_pk: id.value, id: rollout })
const started = (made: Schemas['WholeRollout']) => {
  begun.value = [made, ...begun.value]
  client.invalidateQueries({ queryKey: ['pairing', id.value] })
}
const retry = useMutation({
  mutationFn: (rollout: string) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/rollouts/{id}/retry', {
        params: { path: path(rollout) },
      }),
    ),
  onSuccess: started,
})
const lookUndo = useMutation({
  mutationFn: async (rollout: string) =>
    (await answered(
      api.POST('/api/v1/pairings/{pairing_pk}/rollouts/{id}/undo', {
        params: { path: path(rollout) },
        body: { dry_run: true },
      }),
    )) as unknown as Schemas['Undoing'][],
})
const undo = useMutation({
  mutationFn: async (rollout: string) =>
    (await answered(
      api.POST('/api/v1/pairings/{pairing_pk}/rollouts/{id}/undo', {
        params: { path: path(rollout) },
        body: { dry_run: false },
      }),
    )) as unknown as Schemas['WholeRollout'],
  onSuccess: (made) => {
    lookUndo.reset()
    started(made)
  },
})
const NAMES: Record<string, string> = {
  deploy: 'Placed',
  order: 'Put in order',
  take_back: 'Taken back',
  mend: 'Mended',
  undo: 'Undone',
}
const staying = computed(() => lookUndo.data.value?.filter((each) => each.why) ?? [])
const going = computed(() => (lookUndo.data.value?.length ?? 0) - staying.value.length)
const undoable = (row: Schemas['Rollout']) =>
  ENDED.includes(row.job.state) &&
  !row.undone &&
  !['undo', 'take_back'].includes(row.purpose as string)
</script>

<template>
  <LoadingNote v-if="isPending" what="the rollouts" />
  <ProblemNote v-else-if="error" :error="error" />
  <EmptyNote v-else-if="!rollouts?.results.length" title="Nothing was rolled out yet"
    ><p>
      Each rollout is kept here with every step, to look at, to go on with, or to undo.
    </p></EmptyNote
  >
  <template v-else>
    <RolloutNote
      v-for="rollout in begun"
      :key="rollout.id + rollout.job.made_at"
      :rollout="rollout"
    />
    <ProblemNote :error="retry.error.value ?? lookUndo.error.value ?? undo.error.value" />
    <ul>
      <li v-for="row in rollouts.results" :key="row.id" class="sheet">
        <div class="row">
          <strong
            >{{ NAMES[row.purpose as string] }}{{ row.folder ? ` · ${row.folder}` : '' }}</strong
          >
          <span class="soft"
            >{{ inZone(row.made_at, about?.shell.timezone ?? 'UTC') }} ·
            {{ row.undone ? 'undone since' : row.job.message || row.job.state }}</span
          >
          <span v-if="row.failed" class="failed">{{ row.failed }} not done</span>
          <NButton
            class="push"
            size="small"
            :aria-expanded="open === row.id"
            @click="open = open === row.id ? '' : row.id"
            >{{ open === row.id ? 'Hide steps' : 'Steps' }}</NButton
          >
          <NButton
            v-if="row.failed && about?.may_change"
            size="small"
            type="primary"
            @click="retry.mutate(row.id)"
            >Do those again</NButton
          >
          <NButton
            v-if="undoable(row) && about?.may_change"
            size="small"
            quaternary
            @click="((open = row.id), lookUndo.mutate(row.id))"
            >Undo …</NButton
          >
        </div>
        <div v-if="open === row.id && lookUndo.data.value && undoable(row)" class="undo">
          <p>
            {{ going }} of {{ lookUndo.data.value.length }} will be undone<template
              v-if="staying.length"
              >; {{ staying.length }} stay:
              {{
                staying
                  .slice(0, 4)
                  .map((each) => `${each.title} (${each.why})`)
                  .join(', ')
              }}</template
            >.
          </p>
          <NButton
            size="small"
            type="error"
            ghost
            :disabled="!going && row.purpose !== 'order'"
            :loading="undo.isPending.value"
            @click="undo.mutate(row.id)"
            >Undo</NButton
          >
        </div>
        <ol v-if="open === row.id && whole?.id === row.id">
          <li v-for="(step, index) in whole.steps" :key="index" :class="step.state">
            <span class="state">{{ step.state }}</span> {{ step.kind.replaceAll('_', ' ') }}
            {{ step.title }} <span v-if="step.message" class="soft">{{ step.message }}</span>
          </li>
        </ol>
      </li>
    </ul>
    <section v-if="saved?.length" class="sheet" aria-labelledby="saved">
      <h2 id="saved">Scores of columns that were taken back</h2>
      <p v-for="each in saved" :key="each.id" class="row">
        {{ each.title }}
        <span class="soft">{{ inZone(each.made_at, about?.shell.timezone ?? 'UTC') }}</span><a
          class="push"
          :href="`/api/v1/pairings/${id}/exports/${each.id}/file`"
          :aria-label="`Save the scores of ${each.title}`"
          >Save as a table</a
        >
      </p>
    </section>
  </template>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li.sheet {
  margin-bottom: 0.6rem;
}
.failed {
  color: var(--alarm);
  font-weight: 600;
}
ol {
  margin: 0.6rem 0 0;
  padding: 0;
  list-style: none;
  font-size: 0.92rem;
  columns: 2;
}
.state {
  display: inline-block;
  width: 5rem;
  color: var(--good);
  font-weight: 600;
}
.pending .state {
  color: var(--soft);
}
li.failed .state,
li.cancelled .state {
  color: var(--alarm);
}
.undo {
  border-left: 3px solid var(--alarm);
  padding-left: 0.7rem;
  margin-top: 0.5rem;
}
@media (max-width: 640px) {
  ol {
    columns: 1;
  }
}
</style>
