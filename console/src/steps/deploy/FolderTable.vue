<script setup lang="ts">
import { NTable } from 'naive-ui/es/table'
import { useQueries } from '@tanstack/vue-query'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { stateName } from '@/logic/states'
import ChooseOne from '@/parts/ChooseOne.vue'
import { outlineQuery } from '@/steps/content/queries'
import { type Folders, folderOf } from './sheet'

const props = defineProps<{
  shells: { pairing: string; label: string }[]
  units: string[]
  plans?: Schemas['Plan'][]
}>()
const folders = defineModel<Folders>({ required: true })
const outlines = useQueries({
  queries: computed(() => props.shells.map((each) => outlineQuery(each.pairing))),
})
const there = computed(() =>
  props.shells.map((_, place) =>
    (outlines.value[place]?.data ?? [])
      .filter((node) => node.kind === 'folder')
      .map((node) => node.title),
  ),
)
const own = computed(() => props.shells[0]?.pairing ?? '')
const shown = (pairing: string, unit: string) => folders.value[pairing]?.[unit] ?? ''
const otherwise = (pairing: string, unit: string) =>
  pairing === own.value ? unit : folderOf(folders.value, own.value, unit)

function say(pairing: string, unit: string, title: string) {
  folders.value = { ...folders.value, [pairing]: { ...folders.value[pairing], [unit]: title } }
}

/** Say by the plan whether the folder will be made or is there; nothing where nothing of the unit goes into it. */
function state(pairing: string, unit: string): '' | 'new' | 'there' {
  const plan = props.plans?.find((each) => each.pairing === pairing)
  const wanted = (shown(pairing, unit).trim() || otherwise(pairing, unit)).toLowerCase()
  if (plan?.folders.some((each) => each.title.toLowerCase() === wanted)) return 'new'
  return plan?.rows.some((row) => row.folder_title.toLowerCase() === wanted) ? 'there' : ''
}
</script>

<template>
  <div
    class="scroll"
    tabindex="0"
    role="region"
    :aria-label="$t('deploy.folder_table.a_folder_for_each_unit')"
  >
    <NTable :bordered="false" class="plain stack">
      <caption class="soft">
        {{
          $t('deploy.folder_table.a_folder_for_each_unit_2')
        }}
      </caption>
      <thead>
        <tr>
          <th scope="col">{{ $t('deploy.folder_table.unit') }}</th>
          <th v-for="each in shells" :key="each.pairing" scope="col">{{ each.label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="unit in units" :key="unit">
          <th scope="row">{{ unit }}</th>
          <td v-for="(each, place) in shells" :key="each.pairing" :data-label="each.label">
            <ChooseOne
              :value="shown(each.pairing, unit)"
              filterable
              tag
              clearable
              :placeholder="otherwise(each.pairing, unit)"
              :label="$t('deploy.folder_table.folder_of_in', { unit, label: each.label })"
              :options="(there[place] ?? []).map((title) => ({ value: title, label: title }))"
              @chosen="say(each.pairing, unit, $event ?? '')"
            />
            <span class="state" :class="state(each.pairing, unit)">{{
              stateName('step', state(each.pairing, unit))
            }}</span>
          </td>
        </tr>
      </tbody>
    </NTable>
  </div>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
  margin-top: 0.9rem;
}
caption {
  text-align: left;
  font-size: 0.92rem;
  padding-bottom: 0.3rem;
}
tbody th {
  font-weight: 600;
  text-align: left;
  padding: 0.45rem 0.6rem;
  border-bottom: 1px solid var(--rule);
  vertical-align: top;
  font-size: inherit;
  color: var(--ink);
}
td {
  white-space: nowrap;
}
input {
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.15rem 0.4rem;
  width: 13rem;
}
@media (max-width: 640px) {
  tbody th {
    display: block;
    border: 0;
    padding: 0.15rem 0.2rem;
  }
  caption {
    display: block;
  }
  input {
    width: min(11rem, 50vw);
  }
}
.state {
  font-size: 0.8rem;
  margin-left: 0.4rem;
  color: var(--soft);
}
.state.new {
  color: var(--right);
  font-weight: 600;
}
</style>
