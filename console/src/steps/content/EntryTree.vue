<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName, stands, stateName, within } from '@/logic/entries'
import type { RowFacts, TreeRow } from '@/parts/rowTree'
import RowTree from '@/parts/RowTree.vue'
import { t } from '@/words'

const MANY = 200
interface Node extends TreeRow<Node> {
  row: Schemas['Entry']
}
const props = defineProps<{
  rows: Schemas['Entry'][]
  all: Schemas['Entry'][]
  zone: string
  open?: string
}>()
const emit = defineEmits<{ look: [entry: string] }>()
/** The ids of the entries that are chosen; folders are chosen through what is in them. */
const chosen = defineModel<string[]>({ required: true })
/** The folders that are shut: of a large package all, at first. */
const shut = ref<string[]>([])
watch(
  () => props.all.length,
  (count) => {
    if (count > MANY)
      shut.value = props.all
        .filter((row) => row.kind === 'folder' && row.depth === 0)
        .map((row) => row.id)
  },
  { immediate: true },
)
const picked = computed(() => new Set(chosen.value))
/** The rows as a tree: each below the folder that holds it. */
const nodes = computed(() => {
  const top: Node[] = []
  const folders = new Map<number, Node[]>()
  for (const row of props.rows) {
    const node: Node = { key: row.id, row }
    if (row.kind === 'folder') folders.set(row.position, (node.children = []))
    ;(folders.get(row.parent) ?? top).push(node)
  }
  return top
})
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
const barred = (row: Schemas['Entry']) =>
  row.blocked || (row.kind === 'folder' && !members.value.get(row.position)?.length)
const state = (row: Schemas['Entry']) =>
  row.kind === 'folder' ? whole(row) : picked.value.has(row.id) ? 'all' : 'none'
const flip = (row: Schemas['Entry']) => !barred(row) && toggle(row, state(row) !== 'all')
const look = (row: Schemas['Entry']) => row.kind !== 'folder' && emit('look', row.id)
const facts = (row: Schemas['Entry']) =>
  [
    row.points ? t('content.entry_tree.points', { points: row.points }) : '',
    row.due_at ? t('content.entry_tree.due', { due_at: inZone(row.due_at, props.zone) }) : '',
    row.audience === 'instructor' ? t('content.entry_tree.for_teachers') : '',
    row.group === 'review' && row.kind === 'folder' ? 'review' : '',
  ]
    .filter(Boolean)
    .join(', ')
const CHECKED = { all: 'true', some: 'mixed', none: 'false' } as const
const about = ({ row }: Node): RowFacts => ({
  checked: barred(row) ? undefined : CHECKED[state(row)],
  marks: [{ barred: row.blocked, there: stands(row), open: row.id === props.open }],
  on: { onClick: () => look(row) },
})
function press(event: KeyboardEvent, ahead: () => Node | undefined): boolean {
  const row = ahead()?.row
  if (event.key === ' ' && row) flip(row)
  else if (event.key === 'Enter' && row && row.kind !== 'folder') look(row)
  else return false
  return true
}
const MARKS = { all: '●', some: '◐', none: '○' }
</script>

<template>
  <RowTree
    v-model:shut="shut"
    class="tree"
    :nodes="nodes"
    :label="$t('content.entry_tree.entries')"
    many
    height="min(64vh, 40rem)"
    :about
    :press
  >
    <template #default="{ node: { row } }">
      <span class="line">
        <span
          class="mark"
          aria-hidden="true"
          :title="$t('content.entry_tree.choose', { shown_title: row.shown_title })"
          @click.stop="flip(row)"
          >{{ barred(row) ? '·' : MARKS[state(row)] }}</span
        >
        <span class="title" :class="{ strong: row.kind === 'folder' }">{{ row.shown_title }}</span>
        <span class="facts soft"
          >{{ facts(row) }}{{ row.kind === 'folder' ? '' : ` ${kindName(row.kind)}` }}</span
        >
        <span
          v-if="stateName(row)"
          class="state"
          :class="{ alarm: row.blocked || row.state === 'failed', both: stands(row) }"
          >{{ stateName(row) }}</span
        >
      </span>
    </template>
  </RowTree>
</template>

<style scoped>
.tree :deep(.open) {
  background: var(--left-wash);
}
.mark {
  padding: 0 0.1rem;
}
.state {
  font-size: 0.82rem;
  flex: none;
}
.alarm {
  color: var(--alarm);
  font-weight: 600;
}
.both {
  color: var(--both);
  font-weight: 600;
}
</style>
