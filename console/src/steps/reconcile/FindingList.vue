<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import SideScores from '@/figures/SideScores.vue'
import { groupBy } from '@/logic/groups'
import { kindOf } from '@/logic/kinds'

const props = defineProps<{ findings: Schemas['Finding'][] }>()
const groups = computed(() => groupBy(props.findings, (finding) => finding.kind))
const FIRST = 5
const unfolded = ref<string[]>([])
const shown = (group: { name: string; rows: Schemas['Finding'][] }) => (unfolded.value.includes(group.name) ? group.rows : group.rows.slice(0, FIRST))
// What each remedy will be called where it can be carried out; today they are proposals.
const REMEDIES: Record<string, string> = { send: 'send it', leave: 'leave it', keep: "keep the gradebook's", restore: "restore the publisher's", clear: 'empty the cell', choose: 'choose by hand' }
</script>

<template>
  <div v-for="group in groups" :key="group.name" class="group" :class="kindOf(group.name).tone">
    <h3>{{ kindOf(group.name).label }} <span class="soft">{{ group.rows.length }}</span></h3>
    <ul>
      <li v-for="finding in shown(group)" :key="finding.id">
        <div class="row">
          <strong>{{ [finding.learner, finding.item].filter(Boolean).join(', ') }}</strong>
          <SideScores v-if="finding.scope === 'cell'" class="push" :publisher="finding.publisher" :sent="finding.sent" :gradebook="finding.gradebook" />
        </div>
        <p class="soft">{{ finding.cause }}<template v-if="finding.remedies.length"> You can: {{ finding.remedies.map((each) => REMEDIES[each] ?? each).join(', or ') }}.</template></p>
      </li>
    </ul>
    <button v-if="shown(group).length < group.rows.length" type="button" class="more" @click="unfolded.push(group.name)">Show {{ group.rows.length - shown(group).length }} more</button>
  </div>
</template>

<style scoped>
.group { border-left: 4px solid var(--both); padding-left: 0.9rem; margin-bottom: 1.1rem; }
.group.left { border-color: var(--left); }
.group.right { border-color: var(--right); }
.group.alarm { border-color: var(--alarm); }
h3 { font-size: 0.95rem; margin: 0 0 0.3rem; }
ul { list-style: none; padding: 0; margin: 0; }
li { padding: 0.35rem 0; border-bottom: 1px solid var(--rule); }
.more { font: inherit; color: var(--both); background: none; border: 0; padding: 0.4rem 0; text-decoration: underline; cursor: pointer; }
li p { margin: 0.15rem 0 0; font-size: 0.9rem; }
</style>
