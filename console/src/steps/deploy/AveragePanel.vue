<script setup lang="ts">
import { useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, toRef } from 'vue'
import { answered, api } from '@/api/client'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { averagesQuery } from './queries'

const props = defineProps<{ pairing: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const { data: averages, refetch } = useQuery(computed(() => averagesQuery(id.value)))
const title = ref('Homework average')
const points = ref('100')
const jobId = ref<string>()
const { job } = useJob(jobId, id)
const make = useMutation({
  mutationFn: async () => {
    const items = (await answered(api.GET('/api/v1/pairings/{pairing_pk}/items', { params: { path: { pairing_pk: id.value }, query: { kind: 'graded', limit: 200 } } }))).results
    const counting = items.filter((item) => Number(item.points) > 0).map((item) => item.id)
    return answered(api.POST('/api/v1/pairings/{pairing_pk}/averages', { params: { path: { pairing_pk: id.value } }, body: { title: title.value, points: points.value, items: counting } as never }))
  },
  onSuccess: () => refetch(),
})
const send = useMutation({
  mutationFn: async (average: string) => answered(api.POST('/api/v1/pairings/{pairing_pk}/averages/{id}/send', { params: { path: { pairing_pk: id.value, id: average } } })),
  onSuccess: (made) => (jobId.value = made.id),
})
</script>

<template>
  <details class="sheet" :open="Boolean(averages?.length)">
    <summary><h2>One average column</h2> <span class="soft">instead of, or beside, a column for each item</span></summary>
    <p class="soft">Each score counts as its share of the item's points; work that is missing is ignored until it is due, and counts as zero after.</p>
    <JobNote v-if="job" :job="job" doing="Sending averages" />
    <ProblemNote :error="make.error.value ?? send.error.value" />
    <p v-for="each in averages" :key="each.id" class="row">
      <strong>{{ each.title }}</strong><span class="soft">{{ each.points }} points, {{ (each.items?.length ?? 0) || each.categories?.join(', ') }} items{{ each.column ? '' : ', no column' }}</span>
      <a class="push" :href="`/api/v1/pairings/${id}/averages/${each.id}/file`">Save as a table</a>
      <NButton size="small" :disabled="!each.column || !mayChange" :loading="send.isPending.value" @click="send.mutate(each.id)">Send to the gradebook</NButton>
    </p>
    <div v-if="mayChange && !averages?.length" class="row">
      <NInput v-model:value="title" size="small" :input-props="{ 'aria-label': 'Title of the column' }" style="max-width: 16rem" />
      <NInput v-model:value="points" size="small" :input-props="{ 'aria-label': 'Points of the column', inputmode: 'decimal' }" style="max-width: 6rem" /> points
      <NButton size="small" :loading="make.isPending.value" @click="make.mutate()">Make the column of all graded items</NButton>
    </div>
  </details>
</template>

<style scoped>
summary { cursor: pointer; }
h2 { display: inline; }
</style>
