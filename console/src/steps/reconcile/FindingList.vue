<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { groupBy } from '@/logic/groups'
import { groupLabel, kindOf } from '@/logic/kinds'
import FindingRow from './FindingRow.vue'
import { groupRemedies, nothing, remedyWords, type Wanted } from './remedies'

/** Findings by cause; a button for each remedy, for one finding or for all of a cause. Nothing is written before it was shown. */
const props = defineProps<{ findings: Schemas['Finding'][]; zone: string; mayAct: boolean }>()
const emit = defineEmits<{ settle: [wanted: Wanted] }>()
// What one change of a column explains is a group of its own: mending that mends them all.
const groups = computed(() =>
  groupBy(props.findings, (finding) => `${finding.kind}:${finding.because ?? ''}`).map((group) => ({
    ...group,
    kind: group.rows[0]!.kind,
    because: group.rows[0]!.because ?? '',
  })),
)
const FIRST = 5
const unfolded = ref<string[]>([])
const shown = (group: { name: string; rows: Schemas['Finding'][] }) =>
  unfolded.value.includes(group.name) ? group.rows : group.rows.slice(0, FIRST)
const all = (name: string, remedy: string) =>
  emit('settle', { ...nothing(), kinds: { [name]: remedy } })
const rootsOf = (group: { because: string; rows: Schemas['Finding'][] }) =>
  props.findings.filter(
    (finding) =>
      finding.scope === 'column' &&
      finding.kind === group.because &&
      group.rows.some((row) => row.item === finding.item),
  )
const mend = (group: { because: string; rows: Schemas['Finding'][] }) => {
  const roots = rootsOf(group)
  emit(
    'settle',
    roots.length
      ? {
          ...nothing(),
          findings: roots.map((finding) => ({
            finding: finding.id,
            remedy: 'put_back',
            candidate: '',
          })),
        }
      : { ...nothing(), kinds: { [`${group.because}:`]: 'put_back' } },
  )
}
</script>

<template>
  <div v-for="group in groups" :key="group.name" class="group" :class="kindOf(group.kind).tone">
    <div class="row top">
      <h3>
        {{ groupLabel(group.kind, group.because) }}
        <span class="soft">{{ group.rows.length }}</span>
      </h3>
      <span v-if="mayAct" class="push row">
        <NButton v-if="group.because" size="tiny" type="primary" @click="mend(group)"
          >{{ $t('reconcile.finding_list.put_the_columns_points_back')
          }}<span class="sr-only">
            {{
              $t('reconcile.finding_list.for', { because: groupLabel(group.kind, group.because) })
            }}</span
          ></NButton
        >
        <NButton
          v-for="(remedy, place) in groupRemedies(group.rows)"
          :key="remedy"
          size="tiny"
          :type="place === 0 && group.rows[0]!.default && !group.because ? 'primary' : 'default'"
          :quaternary="place > 0 || Boolean(group.because)"
          @click="all(group.name, remedy)"
          >{{ $t('reconcile.finding_list.all', { remedy: remedyWords(remedy) })
          }}<span class="sr-only"> {{ groupLabel(group.kind, group.because) }}</span></NButton
        >
      </span>
    </div>
    <ul>
      <FindingRow
        v-for="finding in shown(group)"
        :key="finding.id"
        :finding
        :zone
        :may-act="mayAct"
        @settle="emit('settle', $event)"
      />
    </ul>
    <NButton
      v-if="shown(group).length < group.rows.length"
      size="small"
      @click="unfolded.push(group.name)"
    >
      {{
        $t('reconcile.finding_list.show_more', { group: group.rows.length - shown(group).length })
      }}
    </NButton>
  </div>
</template>

<style scoped>
.group {
  border-left: 4px solid var(--both);
  padding-left: 0.9rem;
  margin-bottom: 1.1rem;
}
.group.left {
  border-color: var(--left);
}
.group.right {
  border-color: var(--right);
}
.group.alarm {
  border-color: var(--alarm);
}
.top {
  gap: 0.5rem;
}
h3 {
  font-size: 0.95rem;
  margin: 0;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
</style>
