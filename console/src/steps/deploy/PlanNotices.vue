<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { groupBy } from '@/logic/groups'
import MoreBelow from '@/parts/MoreBelow.vue'

/** What plans say beside their rows: one sentence of a kind at once, more of them below it. */
const props = defineProps<{ plans: Schemas['Plan'][] }>()
const groups = computed(() =>
  groupBy(
    props.plans.flatMap((plan) => plan.notices),
    (notice) => notice.code,
  ),
)
</script>

<template>
  <template v-for="group in groups" :key="group.name">
    <p v-if="group.rows.length === 1" class="notice" :class="group.rows[0]!.level">
      <strong>{{ group.rows[0]!.message }}</strong>
      <span class="soft">{{ ` ${group.rows[0]!.remedy}` }}</span>
    </p>
    <MoreBelow
      v-else
      class="notice"
      :class="group.rows[0]!.level"
      :title="$t('deploy.plan_bar.times', { rows: group.rows.length })"
    >
      <template #title>
        {{ $t('deploy.plan_bar.times', { rows: group.rows.length }) }}{{ group.rows[0]!.message }}
        <span class="soft">{{ group.rows[0]!.remedy }}</span>
      </template>
      <ul>
        <li v-for="(each, index) in group.rows.slice(1)" :key="index">{{ each.message }}</li>
      </ul>
    </MoreBelow>
  </template>
</template>

<style scoped>
.notice {
  font-size: 0.9rem;
  padding: 0.1rem 0 0.1rem 0.7rem;
  border-left: 3px solid var(--rule);
  margin: 0 0 0.5rem;
}
.notice.error {
  border-color: var(--alarm);
}
.notice.warning {
  border-color: var(--left);
}
ul {
  margin: 0.2rem 0;
}
</style>
