<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { groupBy } from '@/logic/groups'

const props = defineProps<{ items: Schemas['Item'][]; zone: string }>()
const chosen = defineModel<string[]>({ required: true })
const units = computed(() => groupBy(props.items, (item) => item.unit || 'Without a unit'))
const free = (items: Schemas['Item'][]) => items.filter((item) => item.placed !== 'placed').map((item) => item.id)

function toggle(items: Schemas['Item'][], on: boolean) {
  const ids = free(items)
  chosen.value = on ? [...new Set([...chosen.value, ...ids])] : chosen.value.filter((id) => !ids.includes(id))
}
const all = (items: Schemas['Item'][]) => free(items).length > 0 && free(items).every((id) => chosen.value.includes(id))
</script>

<template>
  <fieldset v-for="unit in units" :key="unit.name">
    <legend>
      <label><input type="checkbox" :checked="all(unit.rows)" :disabled="!free(unit.rows).length" @change="toggle(unit.rows, ($event.target as HTMLInputElement).checked)" /> {{ unit.name }}</label>
    </legend>
    <label v-for="item in unit.rows" :key="item.id" class="item" :class="{ placed: item.placed === 'placed' }">
      <input v-model="chosen" type="checkbox" :value="item.id" :disabled="item.placed === 'placed'" />
      <span class="title">{{ item.shown_title }}</span>
      <span class="soft facts">{{ item.placed === 'placed' ? 'placed' : item.kind === 'graded' ? `${item.points ?? 'no'} points, ${inZone(item.due_date, zone) || 'no due date'}` : 'practice, no column' }}</span>
    </label>
  </fieldset>
</template>

<style scoped>
fieldset { border: 0; padding: 0; margin: 0 0 0.7rem; }
legend { font-weight: 650; padding: 0.15rem 0; }
.item { display: flex; gap: 0.5rem; padding: 0.14rem 0 0.14rem 1.3rem; align-items: baseline; }
.item:hover { background: var(--left-wash); border-radius: 6px; }
.facts { margin-left: auto; font-size: 0.85rem; text-align: right; flex: none; }
.placed .title { color: var(--soft); }
input { accent-color: var(--both); }
@media (max-width: 640px) { .item { flex-wrap: wrap; } .facts { flex-basis: 100%; margin-left: 1.6rem; text-align: left; } }
</style>
