<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import PlanNotices from './PlanNotices.vue'
import PlanTable from './PlanTable.vue'
import { t } from '@/words'

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
  if (!props.chosen) return t('deploy.plan_bar.choose_items_on_the_left')
  if (!props.plans) return t('deploy.plan_bar.working_out_what_will_happen')
  if (unread.value.length)
    return t('deploy.plan_bar.the_homework_course_there_is', { unread: unread.value.join(', ') })
  const parts = [
    total('make')
      ? t('deploy.plan_bar.make_with_a_new_column', {
          link: t('count.links', total('make')),
          columns: total('columns'),
        })
      : '',
    total('change') ? t('deploy.plan_bar.change', { change: total('change') }) : '',
    total('same') ? t('deploy.plan_bar.leave_that_stand_there', { same: total('same') }) : '',
  ].filter(Boolean)
  const where = several.value
    ? ` ${t('deploy.plan_bar.in_shells', { plans: props.plans.length })}`
    : ''
  return parts.length
    ? t('deploy.plan_bar.will', { parts: parts.join(', '), where })
    : t('deploy.plan_bar.nothing_of_this_can_be')
})
</script>

<template>
  <div class="bar" role="region" :aria-label="$t('deploy.plan_bar.what_will_happen')">
    <ProblemNote :error="error" />
    <div v-if="open && plans" class="tables">
      <PlanTable v-for="plan in plans" :key="plan.pairing" :plan="plan" :named="several" />
    </div>
    <PlanNotices :plans="plans ?? []" />
    <div class="row">
      <p class="sentence" aria-live="polite">{{ sentence }}</p>
      <NButton v-if="plans" :aria-expanded="open" @click="open = !open">{{
        open ? $t('deploy.plan_bar.hide_the_plan') : $t('deploy.plan_bar.show_the_plan')
      }}</NButton>
      <NButton
        :disabled="!chosen || !mayChange"
        :title="$t('deploy.plan_bar.a_thin_cartridge_to_upload')"
        @click="$emit('write')"
        >{{ $t('deploy.plan_bar.as_a_file') }}</NButton
      >
      <NButton
        type="primary"
        :disabled="!(total('make') + total('change')) || unread.length > 0 || !mayChange"
        :loading="busy"
        @click="$emit('deploy')"
        >{{ $t('deploy.plan_bar.deploy') }}</NButton
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
