<script setup lang="ts">
import { NTree, type TreeOption } from 'naive-ui/es/tree'
import { computed, h, ref, useId, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName, stands, stateName, within } from '@/logic/entries'
import { useTreeAria } from '@/parts/useTreeAria'
import { t } from '@/words'

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
const picked = computed(() => new Set(chosen.value))
const byKey = computed(() => new Map(props.rows.map((row) => [row.id, row])))
/** The rows as a tree: each below the folder that holds it. */
const tree = computed(() => {
  const top: TreeOption[] = []
  const folders = new Map<number, TreeOption[]>()
  for (const row of props.rows) {
    const node: TreeOption = { key: row.id, label: row.shown_title }
    if (row.kind === 'folder') folders.set(row.position, (node.children = []))
    ;(folders.get(row.parent) ?? top).push(node)
  }
  return top
})
const expanded = computed(() =>
  props.rows
    .filter((row) => row.kind === 'folder' && !closed.value.has(row.position))
    .map((row) => row.id),
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
const unfold = (keys: (string | number)[]) =>
  (closed.value = new Set(
    props.rows
      .filter((row) => row.kind === 'folder' && !keys.includes(row.id))
      .map((row) => row.position),
  ))
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
const root = ref<InstanceType<typeof NTree>>()
const { idOf, ahead, later } = useTreeAria(root, {
  id: useId(),
  label: () => t('content.entry_tree.entries'),
  many: () => true,
  drawn: () => [props.rows, chosen.value],
})
const CHECKED = { all: 'true', some: 'mixed', none: 'false' } as const
const nodeProps = ({ option }: { option: TreeOption }) => {
  const row = byKey.value.get(String(option.key))
  if (!row) return {}
  return {
    role: 'treeitem',
    id: idOf(row.id),
    'data-tree-key': row.id,
    'aria-level': row.depth + 1,
    'aria-expanded': row.kind === 'folder' ? !closed.value.has(row.position) : undefined,
    'aria-checked': barred(row) ? undefined : CHECKED[state(row)],
    class: { barred: row.blocked, there: stands(row), open: row.id === props.open },
    onClick: () => look(row),
  }
}
function press(event: KeyboardEvent) {
  const row = byKey.value.get(ahead() ?? '')
  if (event.key === ' ' && row) flip(row)
  else if (event.key === 'Enter' && row && row.kind !== 'folder') look(row)
  else return later()
  event.preventDefault()
  event.stopPropagation()
}
const MARKS = { all: '●', some: '◐', none: '○' }
const label = ({ option }: { option: TreeOption }) => {
  const row = byKey.value.get(String(option.key))
  if (!row) return ''
  const mark = h(
    'span',
    {
      class: 'mark',
      'aria-hidden': true,
      title: t('content.entry_tree.choose', { shown_title: row.shown_title }),
      onClick: (event: MouseEvent) => {
        event.stopPropagation()
        flip(row)
      },
    },
    barred(row) ? '·' : MARKS[state(row)],
  )
  return h('span', { class: 'line' }, [
    mark,
    h('span', { class: ['title', { strong: row.kind === 'folder' }] }, row.shown_title),
    h('span', { class: 'facts soft' }, [
      facts(row),
      row.kind === 'folder' ? '' : ` ${kindName(row.kind)}`,
    ]),
    stateName(row)
      ? h(
          'span',
          { class: ['state', { alarm: row.blocked || row.state === 'failed', both: stands(row) }] },
          stateName(row),
        )
      : null,
  ])
}
</script>

<template>
  <div class="tree" @keydown.capture="press" @keyup="later">
    <NTree
      ref="root"
      block-line
      virtual-scroll
      :data="tree"
      :expanded-keys="expanded"
      :selectable="false"
      :node-props="nodeProps"
      :render-label="label"
      style="height: min(64vh, 40rem)"
      @update:expanded-keys="unfold"
    />
  </div>
</template>

<style scoped>
.tree :deep(.n-tree-node) {
  border-radius: 6px;
  cursor: pointer;
}
.tree :deep(.n-tree-node-content),
.tree :deep(.n-tree-node-content__text) {
  width: 100%;
  min-width: 0;
  border: 0;
}
.tree :deep(.open) {
  background: var(--left-wash);
}
.tree :deep(.n-tree-node--pending) {
  box-shadow: inset 3px 0 0 var(--both);
}
.tree :deep(.line) {
  padding-right: 0.8rem; /* what scrolls has its bar there */
  display: flex;
  gap: 0.5rem;
  align-items: center;
  white-space: nowrap;
}
.tree :deep(.mark) {
  color: var(--both);
  flex: none;
  width: 1rem;
  padding: 0 0.1rem;
}
.tree :deep(.title) {
  overflow: hidden;
  text-overflow: ellipsis;
}
.tree :deep(.strong) {
  font-weight: 600;
}
.tree :deep(.barred) {
  color: var(--soft);
}
.tree :deep(.facts) {
  margin-left: auto;
  font-size: 0.85rem;
  flex: none;
}
.tree :deep(.state) {
  font-size: 0.82rem;
  flex: none;
}
.tree :deep(.alarm) {
  color: var(--alarm);
  font-weight: 600;
}
.tree :deep(.both) {
  color: var(--both);
  font-weight: 600;
}
@media (max-width: 640px) {
  .tree :deep(.facts) {
    display: none;
  }
}
</style>
