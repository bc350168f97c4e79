<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { computed, ref, toRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { groupBy } from '@/logic/groups'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import AveragePanel from './AveragePanel.vue'
import ChangePanel from './ChangePanel.vue'
import { placementsQuery } from './queries'
import RolloutNote from './RolloutNote.vue'
import TakeBackPanel from './TakeBackPanel.vue'
import { t } from '@/words'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: placements, error, isPending } = useQuery(computed(() => placementsQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const folders = computed(() =>
  groupBy(
    [...(placements.value ?? [])].sort((a, b) => a.place - b.place),
    (each) => each.folder_id || '',
  ),
)
const chosen = ref<string[]>([])
const open = ref<'' | 'taking' | 'changing'>('')
const rows = computed(() =>
  (placements.value ?? []).filter((each) => chosen.value.includes(each.id)),
)
const categories = computed(() =>
  [...new Set((placements.value ?? []).map((each) => each.category))].filter(Boolean),
)
const names = computed(() =>
  [...new Set((placements.value ?? []).map((each) => each.folder))].filter(Boolean),
)
const isOn = (some: Schemas['Placement'][]) => some.every((each) => chosen.value.includes(each.id))
function choose(some: Schemas['Placement'][], on: boolean) {
  const ids = some.map((each) => each.id)
  chosen.value = [...chosen.value.filter((id) => !ids.includes(id)), ...(on ? ids : [])]
}
function started(rollouts: Schemas['WholeRollout'][]) {
  begun.value = [...rollouts, ...begun.value]
  chosen.value = []
}
const begun = ref<Schemas['WholeRollout'][]>([])
const dragged = ref('')
const path = computed(() => ({ pairing_pk: id.value }))
const ordering = useMutation({
  mutationFn: async (wanted: Record<string, unknown>) =>
    (await answered(
      api.POST('/api/v1/pairings/{pairing_pk}/orders', {
        params: { path: path.value },
        body: wanted as never,
      }),
    )) as unknown as Schemas['WholeRollout'],
  onSuccess: (made) => (begun.value = [made, ...begun.value]),
})
/** Put one link after another of its folder, or first where none is named. */
const put = (entry: string, after: string) =>
  entry !== after && ordering.mutate({ entries: [entry], after: after || 'start' })
function press(event: KeyboardEvent, row: Schemas['Placement'][], index: number) {
  if (!event.altKey || !['ArrowUp', 'ArrowDown', 'Home', 'End'].includes(event.key)) return
  event.preventDefault()
  const [entry, last] = [row[index]!.entry_id, row.length - 1]
  if (event.key === 'ArrowUp' && index > 0) put(entry, row[index - 2]?.entry_id ?? '')
  if (event.key === 'ArrowDown' && index < last) put(entry, row[index + 1]!.entry_id)
  if (event.key === 'Home' && index > 0) put(entry, '')
  if (event.key === 'End' && index < last) put(entry, row[last]!.entry_id)
}
const learners = (each: Schemas['Placement']) =>
  !each.visible
    ? 'hidden'
    : each.shown_from
      ? t('deploy.placed.from', { shown_from: inZone(each.shown_from, zone.value) })
      : 'shown'
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('deploy.placed.what_is_placed')" />
  <ProblemNote v-else-if="error" :error="error" />
  <EmptyNote v-else-if="!placements?.length" :title="$t('deploy.placed.nothing_is_placed_yet')"
    ><p>
      {{ $t('deploy.placed.what_you_place_from_this') }}
    </p></EmptyNote
  >
  <template v-else>
    <RolloutNote v-for="rollout in begun" :key="rollout.id" :rollout="rollout" />
    <ProblemNote :error="ordering.error.value" />
    <div class="row tools">
      <NCheckbox
        :checked="isOn(placements)"
        :indeterminate="!isOn(placements) && chosen.length > 0"
        @update:checked="(on: boolean) => choose(placements!, on)"
        >{{ $t('deploy.placed.all', { link: $t('count.links', placements.length) }) }}</NCheckbox
      >
      <NButton
        size="small"
        :disabled="!chosen.length || !about?.may_change"
        @click="open = 'changing'"
        >{{ $t('deploy.placed.change', { chosen: chosen.length || '' }) }}</NButton
      >
      <NButton
        size="small"
        type="error"
        ghost
        :disabled="!chosen.length || !about?.may_change"
        @click="open = 'taking'"
        >{{ $t('deploy.placed.take_back', { chosen: chosen.length || '' }) }}</NButton
      >
      <span class="push">{{ $t('deploy.placed.sort_folders_and_gradebook') }}</span>
      <NButton
        v-for="[by, label] in [
          ['due', $t('deploy.how.by_due_date')],
          ['publisher', $t('deploy.placed.as_publisher')],
          ['unit', $t('deploy.how.by_unit')],
        ]"
        :key="by"
        size="small"
        :disabled="!about?.may_change"
        :loading="ordering.isPending.value"
        @click="ordering.mutate({ by })"
        >{{ label }}</NButton
      >
    </div>
    <p class="soft hint">{{ $t('deploy.placed.drag_a_link_or_press') }}</p>
    <TakeBackPanel
      v-if="open === 'taking'"
      :pairing="id"
      :placements="chosen"
      @close="open = ''"
      @begun="(rollout) => started([rollout])"
    />
    <ChangePanel
      v-if="open === 'changing'"
      :pairing="id"
      :placements="rows"
      :folders="names"
      :categories="categories"
      :zone="zone"
      @close="open = ''"
      @begun="started"
    />
    <section
      v-for="folder in folders"
      :key="folder.name"
      class="sheet"
      :aria-label="folder.rows[0]!.folder || $t('deploy.placed.the_top_of_the_outline')"
    >
      <div class="row head">
        <NCheckbox
          :checked="isOn(folder.rows)"
          :aria-label="
            $t('deploy.placed.choose_all_of', {
              outline: folder.rows[0]!.folder || $t('deploy.placed.the_top_of_the_outline_2'),
            })
          "
          @update:checked="(on: boolean) => choose(folder.rows, on)"
        />
        <h2>{{ folder.rows[0]!.folder || $t('deploy.placed.the_top_of_the_outline') }}</h2>
      </div>
      <ul>
        <li
          v-for="(each, index) in folder.rows"
          :key="each.id"
          :draggable="Boolean(each.entry_id)"
          :class="{ over: dragged && dragged !== each.entry_id }"
          @dragstart="dragged = each.entry_id"
          @dragend="dragged = ''"
          @dragover.prevent
          @drop.prevent="put(dragged, each.entry_id)"
        >
          <NCheckbox
            :checked="chosen.includes(each.id)"
            :aria-label="$t('deploy.placed.choose_alt_and_an_arrow', { title: each.title })"
            @update:checked="
              (on: boolean) =>
                (chosen = on ? [...chosen, each.id] : chosen.filter((id) => id !== each.id))
            "
            @keydown="press($event, folder.rows, index)"
          />
          <span class="title">{{ each.title }}</span>
          <span class="facts soft"
            ><span v-if="each.state !== 'placed'" class="state">{{ each.state }}</span
            ><span>{{
              each.column
                ? $t('deploy.placed.points', { points: each.points })
                : $t('deploy.placed.no_column')
            }}</span
            ><span>{{ inZone(each.due_at, zone) || $t('deploy.placed.no_date') }}</span
            ><span>{{ each.category || $t('deploy.placed.no_category') }}</span
            ><span>{{ learners(each) }}</span></span
          >
        </li>
      </ul>
    </section>
    <AveragePanel :pairing="id" :may-change="about?.may_change ?? false" />
  </template>
</template>

<style scoped>
.tools {
  margin-bottom: 0.3rem;
}
.hint {
  margin: 0 0 0.8rem;
}
.sheet {
  margin-bottom: 0.8rem;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: flex;
  gap: 0.6rem;
  align-items: baseline;
  padding: 0.18rem 0.2rem;
  border-radius: 6px;
  flex-wrap: wrap;
}
li:hover {
  background: var(--right-wash);
}
.head {
  align-items: center;
}
.head h2 {
  margin: 0;
}
.over {
  border-bottom: 2px dashed var(--rule);
}
.facts {
  margin-left: auto;
  display: flex;
  gap: 0.9rem;
  font-size: 0.86rem;
  flex-wrap: wrap;
}
.facts > span {
  min-width: 5.2rem;
  text-align: right;
}
.state {
  color: var(--alarm);
  font-weight: 600;
}
input {
  accent-color: var(--both);
}
@media (max-width: 640px) {
  .facts {
    margin-left: 1.6rem;
    flex-basis: 100%;
    gap: 0.5rem;
  }
  .facts > span {
    min-width: 0;
  }
  .push {
    margin-left: 0;
  }
}
</style>
