<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import SideScores from '@/figures/SideScores.vue'
import { groupBy } from '@/logic/groups'
import { kindOf } from '@/logic/kinds'
import { t } from '@/words'

/** What two files disagree about, by cause; long lists are unfolded. */
const props = defineProps<{ findings: Schemas['FileFinding'][] }>()
const FIRST = 8
const unfolded = ref<string[]>([])
// What is wrong with a whole column explains its cells, so it comes before them.
const FIRST_SCOPE = ['column', 'cell', 'learner']
const groups = computed(() =>
  groupBy(
    [...props.findings].sort((a, b) => FIRST_SCOPE.indexOf(a.scope) - FIRST_SCOPE.indexOf(b.scope)),
    (finding) => finding.finding,
  ),
)
const shown = (group: { name: string; rows: Schemas['FileFinding'][] }) =>
  unfolded.value.includes(group.name) ? group.rows : group.rows.slice(0, FIRST)
const of = (scope: string, score: string, points: string) =>
  score && points
    ? t('files.file_findings.of', { score, points })
    : score || (scope === 'column' && points) || null
</script>

<template>
  <section v-for="group in groups" :key="group.name" class="group" :class="kindOf(group.name).tone">
    <h2>
      {{ kindOf(group.name).label }} <span class="soft">{{ group.rows.length }}</span>
    </h2>
    <ul>
      <li v-for="(row, place) in shown(group)" :key="place">
        <div class="row">
          <strong>{{ [row.learner, row.item].filter(Boolean).join(', ') }}</strong>
          <SideScores
            v-if="row.scope === 'cell' || row.finding.startsWith('points')"
            class="push"
            :publisher="of(row.scope, row.publisher, row.publisher_points)"
            :gradebook="of(row.scope, row.gradebook, row.gradebook_points)"
          />
        </div>
        <p v-if="row.cause" class="soft">{{ row.cause }}</p>
      </li>
    </ul>
    <NButton
      v-if="shown(group).length < group.rows.length"
      size="small"
      @click="unfolded.push(group.name)"
    >
      {{ $t('files.file_findings.show_more', { group: group.rows.length - shown(group).length }) }}
    </NButton>
  </section>
  <p v-if="!findings.length" class="soft">
    {{ $t('files.file_findings.nothing_differs_scores_columns_and') }}
  </p>
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
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 0.35rem 0;
  border-bottom: 1px solid var(--rule);
}
li p {
  margin: 0.1rem 0 0;
  font-size: 0.9rem;
}
</style>
