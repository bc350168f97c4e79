<script setup lang="ts">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { stateName } from '@/logic/states'
import { t } from '@/words'

type Placement = Schemas['Placement']

const props = defineProps<{ rows: Placement[]; zone: string; chosen: string[] }>()
const emit = defineEmits<{
  choose: [some: Placement[], on: boolean]
  put: [entry: string, after: string]
}>()
const name = computed(() => props.rows[0]?.folder || t('deploy.placed.the_top_of_the_outline'))
const all = computed(() => props.rows.every((each) => props.chosen.includes(each.id)))
const dragged = ref('')

function press(event: KeyboardEvent, index: number) {
  if (!event.altKey || !['ArrowUp', 'ArrowDown', 'Home', 'End'].includes(event.key)) return
  event.preventDefault()
  const entries = props.rows.map((each) => each.entry_id)
  const [entry, last] = [entries[index]!, entries.length - 1]
  if (event.key === 'ArrowUp' && index > 0) emit('put', entry, entries[index - 2] ?? '')
  if (event.key === 'ArrowDown' && index < last) emit('put', entry, entries[index + 1]!)
  if (event.key === 'Home' && index > 0) emit('put', entry, '')
  if (event.key === 'End' && index < last) emit('put', entry, entries[last]!)
}
const learners = (each: Placement) =>
  !each.visible
    ? t('deploy.placed.hidden')
    : each.shown_from
      ? t('deploy.placed.from', { shown_from: inZone(each.shown_from, props.zone) })
      : t('deploy.placed.shown')
</script>

<template>
  <section class="sheet" :aria-label="name">
    <div class="row head">
      <NCheckbox
        :checked="all"
        :aria-label="$t('deploy.placed.choose_all_of', { outline: name })"
        @update:checked="(on: boolean) => emit('choose', rows, on)"
      />
      <h2>{{ name }}</h2>
    </div>
    <ul>
      <li
        v-for="(each, index) in rows"
        :key="each.id"
        :data-entry="each.entry_id"
        :draggable="Boolean(each.entry_id)"
        :class="{ over: dragged && dragged !== each.entry_id }"
        @dragstart="dragged = each.entry_id"
        @dragend="dragged = ''"
        @dragover.prevent
        @drop.prevent="emit('put', dragged, each.entry_id)"
      >
        <NCheckbox
          :checked="chosen.includes(each.id)"
          :aria-label="$t('deploy.placed.choose_alt_and_an_arrow', { title: each.title })"
          @update:checked="(on: boolean) => emit('choose', [each], on)"
          @keydown="press($event, index)"
        />
        <span class="title">{{ each.title }}</span>
        <span class="facts soft"
          ><span v-if="each.state !== 'placed'" class="state">{{
            stateName('step', each.state)
          }}</span
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
</template>

<style scoped>
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
/* Points, date, category and visibility are below each other, whatever else a row says before. */
.facts {
  margin-left: auto;
  display: grid;
  grid-template-columns: auto 5.2rem 9rem 7rem 5.2rem;
  gap: 0.9rem;
  font-size: 0.86rem;
  text-align: right;
}
.facts > span:nth-last-child(4) {
  grid-column: 2;
}
.state {
  color: var(--alarm);
  font-weight: 600;
}
@media (max-width: 640px) {
  .facts {
    margin-left: 1.6rem;
    flex-basis: 100%;
    display: flex;
    flex-wrap: wrap;
    gap: 0.5rem;
  }
}
</style>
