<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName, isInShell, stateName } from '@/logic/entries'
import type { RowFacts } from '@/parts/rowTree'
import RowTree from '@/parts/RowTree.vue'
import { t } from '@/words'
import { type EntryNode, useEntryTree } from './useEntryTree'

const props = defineProps<{
  rows: Schemas['Entry'][]
  all: Schemas['Entry'][]
  zone: string
  open?: string
}>()
const emit = defineEmits<{ look: [entry: string] }>()
/** The ids of the entries that are chosen; folders are chosen through what is in them. */
const chosen = defineModel<string[]>({ required: true })
const { shut, nodes, barred, state, flip } = useEntryTree(props, chosen)
const look = (row: Schemas['Entry']) => row.kind !== 'folder' && emit('look', row.id)
const facts = (row: Schemas['Entry']) =>
  [
    row.points ? t('content.entry_tree.points', { points: row.points }) : '',
    row.due_at ? t('content.entry_tree.due', { due_at: inZone(row.due_at, props.zone) }) : '',
    row.audience === 'instructor' ? t('content.entry_tree.for_teachers') : '',
    row.group === 'review' && row.kind === 'folder' ? t('content.entry_tree.review') : '',
  ]
    .filter(Boolean)
    .join(', ')
const CHECKED = { all: 'true', some: 'mixed', none: 'false' } as const
const about = ({ row }: EntryNode): RowFacts => ({
  checked: barred(row) ? undefined : CHECKED[state(row)],
  marks: [{ barred: row.blocked, there: isInShell(row), open: row.id === props.open }],
  on: { onClick: () => look(row) },
})
function press(event: KeyboardEvent, ahead: () => EntryNode | undefined): boolean {
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
        <span class="title" :class="{ strong: row.kind === 'folder' }" :title="row.shown_title">{{
          row.shown_title
        }}</span>
        <span class="facts soft"
          >{{ facts(row) }}{{ row.kind === 'folder' ? '' : ` ${kindName(row.kind)}` }}</span
        >
        <span
          v-if="stateName(row)"
          class="state"
          :class="{ alarm: row.blocked || row.state === 'failed', both: isInShell(row) }"
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
