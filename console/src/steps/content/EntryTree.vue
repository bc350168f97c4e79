<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName, stands, stateName, within } from '@/logic/entries'

const MANY = 200
const props = defineProps<{
  rows: Schemas['Entry'][]
  all: Schemas['Entry'][]
  zone: string
  open?: string
}>()
const emit = defineEmits<{ look: [entry: string] }>()
/** The ids of the entries that are chosen; folders are chosen through what is in them. */
const chosen = defineModel<string[]>({ required: true })
const closed = ref(new Set<number>())
watch(
  () => props.all.length,
  (count) => {
    if (count > MANY)
      closed.value = new Set(
        props.all
          .filter((row) => row.kind === 'folder' && row.depth === 0)
          .map((row) => row.position),
      )
  },
  { immediate: true },
)
const parents = computed(() => new Map(props.all.map((row) => [row.position, row.parent])))
const picked = computed(() => new Set(chosen.value))
const shown = computed(() =>
  props.rows.filter((row) => {
    for (let at = row.parent; at >= 0; at = parents.value.get(at) ?? -1)
      if (closed.value.has(at)) return false
    return true
  }),
)
const members = computed(
  () =>
    new Map(
      props.rows
        .filter((row) => row.kind === 'folder')
        .map((row) => [row.position, within(props.rows, row)]),
    ),
)
function whole(row: Schemas['Entry']): 'all' | 'some' | 'none' {
  const inside = members.value.get(row.position) ?? []
  const count = inside.filter((each) => picked.value.has(each.id)).length
  return count === 0 ? 'none' : count === inside.length ? 'all' : 'some'
}
function toggle(row: Schemas['Entry'], on: boolean) {
  const ids =
    row.kind === 'folder'
      ? (members.value.get(row.position) ?? []).map((each) => each.id)
      : [row.id]
  const next = new Set(chosen.value)
  for (const id of ids)
    if (on) next.add(id)
    else next.delete(id)
  chosen.value = [...next]
}
function fold(position: number) {
  const next = new Set(closed.value)
  if (!next.delete(position)) next.add(position)
  closed.value = next
}
const facts = (row: Schemas['Entry']) =>
  [
    row.points ? `${row.points} points` : '',
    row.due_at ? `due ${inZone(row.due_at, props.zone)}` : '',
    row.audience === 'instructor' ? 'for teachers' : '',
    row.group === 'review' && row.kind === 'folder' ? 'review' : '',
  ]
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <ul>
    <li
      v-for="row in shown"
      :key="row.id"
      :class="{
        branch: row.kind === 'folder',
        barred: row.blocked,
        there: stands(row),
        open: row.id === open,
      }"
      :style="{ paddingLeft: `${row.depth * 1.25}rem` }"
    >
      <button
        v-if="row.kind === 'folder'"
        type="button"
        class="fold"
        :aria-expanded="!closed.has(row.position)"
        :aria-label="`${closed.has(row.position) ? 'Open' : 'Close'} ${row.shown_title}`"
        @click="fold(row.position)"
      >
        {{ closed.has(row.position) ? '▸' : '▾' }}
      </button>
      <span v-else class="fold"></span>
      <input
        type="checkbox"
        :checked="row.kind === 'folder' ? whole(row) === 'all' : picked.has(row.id)"
        :indeterminate="row.kind === 'folder' && whole(row) === 'some'"
        :disabled="row.blocked || (row.kind === 'folder' && !members.get(row.position)?.length)"
        :aria-label="`Choose ${row.shown_title}`"
        @change="toggle(row, ($event.target as HTMLInputElement).checked)"
      />
      <button
        type="button"
        class="title"
        @click="row.kind === 'folder' ? fold(row.position) : emit('look', row.id)"
      >
        {{ row.shown_title }}
      </button>
      <span class="facts soft"
        ><span v-if="facts(row)">{{ facts(row) }}</span
        ><span v-if="row.kind !== 'folder'" class="kind">{{ kindName(row.kind) }}</span
        ><span
          v-if="stateName(row)"
          class="state"
          :class="{ alarm: row.blocked || row.state === 'failed', both: stands(row) }"
          >{{ stateName(row) }}</span
        ></span
      >
    </li>
  </ul>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: flex;
  gap: 0.45rem;
  align-items: baseline;
  border-radius: 6px;
  padding-top: 0.1rem;
  padding-bottom: 0.1rem;
}
li:hover,
li.open {
  background: var(--left-wash);
}
.fold {
  width: 1.2rem;
  flex: none;
  border: 0;
  background: none;
  color: inherit;
  padding: 0;
  font: inherit;
  cursor: pointer;
}
.title {
  border: 0;
  background: none;
  color: inherit;
  font: inherit;
  padding: 0;
  text-align: left;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.title:hover {
  text-decoration: underline;
}
.branch > .title {
  font-weight: 650;
}
.barred > .title {
  color: var(--soft);
  text-decoration: line-through;
  text-decoration-color: var(--alarm);
}
.facts {
  margin-left: auto;
  display: flex;
  gap: 0.7rem;
  font-size: 0.84rem;
  flex: none;
  align-items: baseline;
}
.kind {
  min-width: 5.6rem;
  text-align: right;
}
.state {
  border-radius: 999px;
  padding: 0 0.5rem;
}
.both {
  background: var(--both-wash);
  color: var(--both);
  font-weight: 600;
}
.alarm {
  background: var(--alarm-wash);
  color: var(--alarm);
  font-weight: 600;
}
input {
  accent-color: var(--both);
  flex: none;
}
@media (max-width: 640px) {
  li {
    flex-wrap: wrap;
  }
  .facts {
    flex: 1 1 calc(100% - 3rem);
    margin-left: 2.9rem;
    flex-wrap: wrap;
  }
  .kind {
    min-width: 0;
  }
}
</style>
