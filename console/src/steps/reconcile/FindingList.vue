<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import SideScores from '@/figures/SideScores.vue'
import { inZone } from '@/logic/dates'
import { groupBy } from '@/logic/groups'
import { groupLabel, kindOf } from '@/logic/kinds'
import { groupRemedies, NAMES_ONE, nothing, remedyWords, type Wanted } from './remedies'

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
const who = (finding: Schemas['Finding']) =>
  [finding.learner, finding.item].filter(Boolean).join(', ')
const one = (finding: Schemas['Finding'], remedy: string, candidate = '') =>
  emit('settle', { ...nothing(), findings: [{ finding: finding.id, remedy, candidate }] })
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
const plainRemedies = (finding: Schemas['Finding']) =>
  finding.remedies.filter((each) => !NAMES_ONE.includes(each))
const namesOne = (finding: Schemas['Finding']) =>
  finding.remedies.find((each) => NAMES_ONE.includes(each))
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
      <li v-for="finding in shown(group)" :key="finding.id">
        <div class="row">
          <strong
            ><RouterLink
              v-if="finding.scope === 'cell'"
              :to="{ query: { placement: finding.placement, person: finding.person } }"
              >{{ who(finding) }}</RouterLink
            ><template v-else>{{ who(finding) }}</template></strong
          >
          <span v-if="finding.new" class="new">{{ $t('reconcile.finding_list.new') }}</span>
          <SideScores
            v-if="finding.scope === 'cell'"
            class="push"
            :publisher="finding.publisher"
            :sent="finding.sent"
            :gradebook="finding.gradebook"
          />
        </div>
        <p class="soft">
          {{ finding.cause
          }}<em v-if="finding.kept">
            {{
              $t('reconcile.finding_list.kept_as_it_is_since', { kept: inZone(finding.kept, zone) })
            }}</em
          >
        </p>
        <div v-if="mayAct && !finding.kept" class="row">
          <template v-if="namesOne(finding)">
            <NButton
              v-for="each in finding.candidates"
              :key="each.key"
              size="tiny"
              @click="one(finding, namesOne(finding)!, each.key)"
              >{{ $t('reconcile.finding_list.is', { email: each.name || each.email }) }}
              <span class="soft">&nbsp;{{ each.why }}</span></NButton
            >
          </template>
          <NButton
            v-for="(remedy, place) in plainRemedies(finding)"
            :key="remedy"
            size="tiny"
            :quaternary="place > 0 || finding.scope === 'learner'"
            @click="one(finding, remedy)"
            >{{ remedyWords(remedy) }}<span class="sr-only">: {{ who(finding) }}</span></NButton
          >
        </div>
      </li>
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
li {
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
.new {
  font-size: 0.78rem;
  font-weight: 700;
  color: var(--both);
  border: 1px solid currentColor;
  border-radius: 999px;
  padding: 0 0.45rem;
}
.more {
  font: inherit;
  color: var(--both);
  background: none;
  border: 0;
  padding: 0.4rem 0;
  text-decoration: underline;
  cursor: pointer;
}
li p {
  margin: 0.15rem 0 0.3rem;
  font-size: 0.9rem;
}
</style>
