<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import { groupBy } from '@/logic/groups'
import ProblemNote from '@/parts/ProblemNote.vue'
import PlanTable from './PlanTable.vue'

const props = defineProps<{
  chosen: number
  plans?: Schemas['Plan'][]
  error: Error | null
  busy: boolean
  mayChange: boolean
}>()
defineEmits<{ deploy: []; write: [] }>()
const open = ref(false)
const total = (name: 'make' | 'change' | 'same' | 'columns') =>
  (props.plans ?? []).reduce((sum, plan) => sum + plan[name], 0)
const several = computed(() => (props.plans?.length ?? 0) > 1)
const unread = computed(() =>
  (props.plans ?? []).filter((plan) => plan.unread).map((plan) => plan.shell),
)
const sentence = computed(() => {
  if (!props.chosen)
    return 'Choose items on the left and a place on the right. Nothing happens until you press Deploy.'
  if (!props.plans) return 'Working out what will happen …'
  if (unread.value.length)
    return `${unread.value.join(', ')}: the homework course there is not read yet. Wait a moment, or leave it out.`
  const parts = [
    total('make')
      ? `make ${many(total('make'), 'link')}, ${total('columns')} with a new column`
      : '',
    total('change') ? `change ${total('change')}` : '',
    total('same') ? `leave ${total('same')} that stand there` : '',
  ].filter(Boolean)
  const where = several.value ? ` in ${props.plans.length} shells` : ''
  return parts.length
    ? `Will ${parts.join(', ')}${where}.`
    : 'Nothing of this can be placed as it is.'
})
const notices = computed(() =>
  groupBy(
    (props.plans ?? []).flatMap((plan) => plan.notices),
    (notice) => notice.code,
  ),
)
</script>

<template>
  <div class="bar" role="region" aria-label="What will happen">
    <ProblemNote :error="error" />
    <div v-if="open && plans" class="tables">
      <PlanTable v-for="plan in plans" :key="plan.pairing" :plan="plan" :named="several" />
    </div>
    <details
      v-for="group in notices"
      :key="group.name"
      class="notice"
      :class="group.rows[0]!.level"
    >
      <summary>
        {{ group.rows.length > 1 ? `${group.rows.length} times: ` : ''
        }}{{ group.rows[0]!.message }} <span class="soft">{{ group.rows[0]!.remedy }}</span>
      </summary>
      <ul v-if="group.rows.length > 1">
        <li v-for="(each, index) in group.rows.slice(1)" :key="index">{{ each.message }}</li>
      </ul>
    </details>
    <div class="row">
      <p class="sentence" aria-live="polite">{{ sentence }}</p>
      <NButton v-if="plans" :aria-expanded="open" @click="open = !open">{{
        open ? 'Hide the plan' : 'Show the plan'
      }}</NButton>
      <NButton
        :disabled="!chosen || !mayChange"
        title="A thin cartridge to upload where nothing can be placed from here"
        @click="$emit('write')"
        >As a file</NButton
      >
      <NButton
        type="primary"
        :disabled="!(total('make') + total('change')) || unread.length > 0 || !mayChange"
        :loading="busy"
        @click="$emit('deploy')"
        >Deploy</NButton
      >
    </div>
  </div>
</template>

<style scoped>
.bar {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-top: 4px solid var(--both);
  border-radius: 12px 12px 0 0;
  padding: 0.8rem 1.1rem;
  margin-top: 1.2rem;
  box-shadow: 0 -6px 18px rgb(0 0 0 / 8%);
  z-index: 2;
}
.sentence {
  margin: 0;
  font-weight: 600;
  flex: 1 1 18rem;
}
.tables {
  max-height: 45vh;
  overflow-y: auto;
  margin-bottom: 0.6rem;
}
.notice {
  font-size: 0.9rem;
  padding: 0.1rem 0 0.1rem 0.7rem;
  border-left: 3px solid var(--rule);
  margin-bottom: 0.3rem;
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
@media (max-width: 640px) {
  .bar {
    position: static;
    border-radius: 12px;
  }
  .tables {
    max-height: none;
  }
}
</style>
