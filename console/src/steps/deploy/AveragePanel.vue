<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { averagesQuery } from './queries'
import TotalForm from './TotalForm.vue'
import TotalRows from './TotalRows.vue'

const WEIGHING = {
  equal: 'items weigh alike',
  points: 'items weigh by their points',
  categories: 'categories weigh as you said',
} as const
const MISSING = {
  until_due: 'missing work is nothing until it is due, zero after',
  ignored: 'missing work never counts',
  zero: 'missing work is zero',
} as const
const props = defineProps<{ pairing: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const { data: averages, refetch } = useQuery(computed(() => averagesQuery(id.value)))
const jobId = ref<string>()
const { job } = useJob(jobId, id)
const shown = ref('')
const adding = ref(false)
const send = useMutation({
  mutationFn: async (average: string) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/averages/{id}/send', {
        params: { path: { pairing_pk: id.value, id: average } },
      }),
    ),
  onSuccess: (made) => (jobId.value = made.id),
})
const words = (each: Schemas['Average']) =>
  [
    `${each.points} points`,
    each.items?.length
      ? `of ${many(each.items.length, 'item')}`
      : `of ${(each.categories ?? []).join(', ')}`,
    WEIGHING[each.weighting ?? 'equal'],
    MISSING[each.missing ?? 'until_due'],
    each.keeps_up ? 'kept up' : '',
    each.column ? '' : 'no column',
  ]
    .filter(Boolean)
    .join(', ')
const made = () => {
  adding.value = false
  refetch()
}
</script>

<template>
  <details class="sheet" :open="Boolean(averages?.length)">
    <summary>
      <h2>One average column</h2>
      <span class="soft">instead of, or beside, a column for each item</span>
    </summary>
    <p class="soft">
      Venn Pair works it out from the publisher's scores, shows how it comes about, and offers it as
      a table or sends it.
    </p>
    <JobNote v-if="job" :job="job" doing="Sending averages" />
    <ProblemNote :error="send.error.value" />
    <div v-for="each in averages" :key="each.id" class="row total">
      <span
        ><strong>{{ each.title }}</strong
        ><br /><span class="soft small">{{ words(each) }}</span></span
      >
      <span class="push row">
        <NButton
          size="small"
          quaternary
          :aria-expanded="shown === each.id"
          @click="shown = shown === each.id ? '' : each.id"
          >{{ shown === each.id ? 'Hide the arithmetic' : 'Show the arithmetic' }}</NButton
        >
        <a :href="`/api/v1/pairings/${id}/averages/${each.id}/file`">Save as a table</a>
        <NButton
          size="small"
          :disabled="!each.column || !mayChange"
          :loading="send.isPending.value"
          @click="send.mutate(each.id)"
          >Send to the gradebook</NButton
        >
      </span>
      <TotalRows v-if="shown === each.id" :pairing="id" :average="each.id" :points="each.points" />
    </div>
    <template v-if="mayChange">
      <TotalForm v-if="adding || !averages?.length" :pairing="id" @made="made" />
      <NButton v-else size="small" quaternary @click="adding = true">Make another one</NButton>
    </template>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
}
h2 {
  display: inline;
}
.total {
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
.small {
  font-size: 0.88rem;
}
</style>
