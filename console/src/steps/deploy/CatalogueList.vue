<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NVirtualList, type VirtualListInst } from 'naive-ui/es/virtual-list'
import { computed, nextTick, ref, watch, watchPostEffect } from 'vue'
import type { Schemas } from '@/api/client'
import {
  becomes,
  type Filters,
  narrowed,
  NO_FILTERS,
  placeable,
  type Row,
  rowsOf,
  stands,
} from '@/logic/catalogue'
import { inZone } from '@/logic/dates'

const props = defineProps<{
  items: Schemas['Item'][]
  changed: Set<string>
  zone: string
  single?: boolean
}>()
/** The ids of the chosen items, in the order in which they were chosen. */
const chosen = defineModel<string[]>({ required: true })
const emit = defineEmits<{ look: [item: Schemas['Item']] }>()
const filters = ref<Filters>({ ...NO_FILTERS })
const units = computed(() => [...new Set(props.items.map((item) => item.unit))].filter(Boolean))
const categories = computed(() =>
  [...new Set(props.items.map((item) => item.category))].filter(Boolean),
)
const subjects = computed(() => [...new Set(props.items.flatMap((item) => item.subjects))])
const shown = computed(() => narrowed(props.items, filters.value, props.changed))
const rows = computed(() => rowsOf(shown.value))
const picked = computed(() => new Set(chosen.value))
const at = ref(0)
const list = ref<VirtualListInst>()
watch(rows, () => (at.value = Math.min(at.value, Math.max(rows.value.length - 1, 0))))

// What scrolls is what is walked by keys: the list's own element, which the package gives no place for attributes.
const around = ref<HTMLElement>()
watchPostEffect(() => {
  const scroller = around.value?.querySelector('.v-vl')
  const facts = {
    role: 'listbox',
    tabindex: '0',
    'aria-multiselectable': String(!props.single),
    'aria-label': 'Items of the homework course',
    'aria-activedescendant': rows.value[at.value] ? `row-${rows.value[at.value]!.key}` : '',
  }
  for (const [name, value] of Object.entries(facts)) scroller?.setAttribute(name, value)
})

const ids = (row: Row) => (row.kind === 'head' ? row.ids : placeable(row.item) ? [row.item.id] : [])
const isOn = (row: Row) => ids(row).length > 0 && ids(row).every((id) => picked.value.has(id))
function set(wanted: string[], on: boolean) {
  if (props.single) chosen.value = on ? wanted.slice(-1) : []
  else
    chosen.value = on
      ? [...chosen.value, ...wanted.filter((id) => !picked.value.has(id))]
      : chosen.value.filter((id) => !wanted.includes(id))
}
const all = computed(() => shown.value.filter(placeable).map((item) => item.id))
const allOn = computed(() => all.value.length > 0 && all.value.every((id) => picked.value.has(id)))
const chooseAll = (on: boolean) => set(all.value, on)
const toggle = (row: Row) => set(ids(row), !isOn(row))
function click(index: number, event: MouseEvent) {
  const row = rows.value[index]!
  if (event.shiftKey)
    set(
      rows.value
        .slice(Math.min(at.value, index), Math.max(at.value, index) + 1)
        .flatMap((each) => (each.kind === 'item' ? ids(each) : [])),
      true,
    )
  else toggle(row)
  at.value = index
  if (row.kind === 'item') emit('look', row.item)
}
async function move(to: number, extend: boolean) {
  at.value = Math.max(0, Math.min(rows.value.length - 1, to))
  const row = rows.value[at.value]
  if (extend && row?.kind === 'item') set(ids(row), true)
  if (row?.kind === 'item') emit('look', row.item)
  await nextTick()
  list.value?.scrollTo({ index: Math.max(0, at.value - 3) })
}
function press(event: KeyboardEvent) {
  const steps: Record<string, number> = {
    ArrowDown: at.value + 1,
    ArrowUp: at.value - 1,
    PageDown: at.value + 12,
    PageUp: at.value - 12,
    Home: 0,
    End: rows.value.length - 1,
  }
  if (event.key in steps) move(steps[event.key]!, event.shiftKey)
  else if (event.key === ' ' && rows.value[at.value]) toggle(rows.value[at.value]!)
  else if (event.key.toLowerCase() === 'a' && (event.ctrlKey || event.metaKey)) chooseAll(true)
  else if (event.key === 'Escape') chosen.value = []
  else return
  event.preventDefault()
}
function drag(row: Row, event: DragEvent) {
  if (!isOn(row)) toggle(row)
  event.dataTransfer?.setData('text/plain', chosen.value.join(','))
}
const facts = (item: Schemas['Item']) =>
  item.kind === 'graded'
    ? `${item.points ?? 'no'} points, ${inZone(item.due_at, props.zone) || 'no date'}`
    : item.kind
</script>

<template>
  <div class="filters" role="search" aria-label="Narrow the catalogue">
    <input
      v-model="filters.words"
      type="search"
      placeholder="Search"
      aria-label="Search by title or unit"
    />
    <select v-model="filters.kind" aria-label="Kind">
      <option value="">all kinds</option>
      <option>graded</option>
      <option>practice</option>
      <option>reading</option>
      <option>media</option>
      <option>link</option>
    </select>
    <select v-model="filters.unit" aria-label="Unit">
      <option value="">all units</option>
      <option v-for="unit in units" :key="unit">{{ unit }}</option>
    </select>
    <select v-if="categories.length" v-model="filters.category" aria-label="Category">
      <option value="">all categories</option>
      <option v-for="each in categories" :key="each">{{ each }}</option>
    </select>
    <select v-if="subjects.length" v-model="filters.subject" aria-label="Subject">
      <option value="">all subjects</option>
      <option v-for="each in subjects" :key="each">{{ each }}</option>
    </select>
    <select v-model="filters.date" aria-label="Due date">
      <option value="">any date</option>
      <option value="with">with a date</option>
      <option value="without">without</option>
    </select>
    <select v-model="filters.placed" aria-label="Placed">
      <option value="">placed or not</option>
      <option value="no">not placed</option>
      <option value="yes">placed</option>
    </select>
    <NButton v-if="!single" size="small" @click="chooseAll(!allOn)">{{
      allOn ? 'Choose none' : 'Choose all'
    }}</NButton>
    <label v-if="changed.size"
      ><input v-model="filters.changed" type="checkbox" /> changed lately</label
    >
  </div>
  <p v-if="!rows.length" class="soft">
    Nothing fits.
    <button type="button" class="plainly" @click="filters = { ...NO_FILTERS }">
      Show everything
    </button>
  </p>
  <div v-else ref="around" class="box" @keydown="press">
    <NVirtualList
      ref="list"
      :items="rows"
      :item-size="34"
      key-field="key"
      style="max-height: min(60vh, 34rem)"
    >
      <template #default="{ item: row, index }: { item: Row; index: number }">
        <div
          :id="`row-${row.key}`"
          class="line"
          role="option"
          :aria-selected="isOn(row)"
          :aria-disabled="ids(row).length === 0"
          :class="{
            head: row.kind === 'head',
            on: isOn(row),
            at: index === at,
            barred: !ids(row).length,
          }"
          :draggable="ids(row).length > 0"
          @dragstart="drag(row, $event)"
          @click="click(index, $event)"
        >
          <span class="mark" aria-hidden="true">{{
            isOn(row)
              ? '●'
              : row.kind === 'item' && stands(row.item)
                ? '✓'
                : ids(row).length
                  ? '○'
                  : '·'
          }}</span>
          <template v-if="row.kind === 'head'">{{ row.title }}</template>
          <template v-else>
            <span class="title" :class="{ soft: stands(row.item) }">{{
              row.item.shown_title
            }}</span>
            <span class="facts soft">{{ facts(row.item) }}</span>
            <span
              class="where"
              :class="{ stands: stands(row.item), failed: row.item.placed === 'failed' }"
              >{{
                stands(row.item)
                  ? 'placed'
                  : row.item.placed === 'failed'
                    ? 'failed'
                    : becomes(row.item).startsWith('no date')
                      ? 'decide'
                      : ''
              }}</span
            >
          </template>
        </div>
      </template>
    </NVirtualList>
  </div>
  <p class="soft foot">
    {{
      chosen.length
        ? `${chosen.length} chosen; ${shown.length} shown.`
        : `${shown.length} shown. Space chooses, Shift and an arrow choose on, Ctrl A chooses all.`
    }}
  </p>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  margin-bottom: 0.5rem;
}
.filters input[type='search'] {
  flex: 1 1 9rem;
  min-width: 7rem;
}
input,
select {
  font: inherit;
  font-size: 0.88rem;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.18rem 0.4rem;
  max-width: 11rem;
  accent-color: var(--both);
}
.box {
  border: 1px solid var(--rule);
  border-radius: 8px;
  overflow: hidden;
}
.line {
  height: 34px;
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0 0.6rem;
  cursor: pointer;
  white-space: nowrap;
}
.line:hover {
  background: var(--left-wash);
}
.at {
  box-shadow: inset 3px 0 0 var(--both);
}
.on {
  background: var(--both-wash);
}
.head {
  font-weight: 650;
}
.barred {
  cursor: default;
  color: var(--soft);
}
.mark {
  color: var(--both);
  flex: none;
  width: 0.9rem;
}
.title {
  overflow: hidden;
  text-overflow: ellipsis;
  flex: 0 1 auto;
}
.facts {
  margin-left: auto;
  font-size: 0.82rem;
  flex: none;
}
.where {
  font-size: 0.8rem;
  flex: none;
  width: 3.4rem;
  text-align: right;
}
.stands {
  color: var(--both);
  font-weight: 600;
}
.failed {
  color: var(--alarm);
  font-weight: 600;
}
.foot {
  margin: 0.4rem 0 0;
  font-size: 0.85rem;
}
.plainly {
  font: inherit;
  color: var(--both);
  background: none;
  border: 0;
  text-decoration: underline;
  cursor: pointer;
  padding: 0;
}
@media (max-width: 640px) {
  .facts {
    display: none;
  }
  .title {
    flex: 1;
  }
}
</style>
