<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, toRef } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { coursesQuery, shellsQuery } from './queries'

const props = defineProps<{ shell: string }>()
const shellId = toRef(props, 'shell')
const router = useRouter()
const client = useQueryClient()
const words = ref('')
const { data: shells } = useQuery(shellsQuery())
const about = computed(() => shells.value?.results.find((each) => each.id === shellId.value))
const { data: courses, error, isPending, refetch } = useQuery(computed(() => coursesQuery(shellId.value, words.value.trim())))
const pair = useMutation({
  mutationFn: (course: string) => answered(api.POST('/api/v1/pairings', { body: { shell: shellId.value, course } })),
  onSuccess: async (pairing) => {
    await client.invalidateQueries({ queryKey: ['shells'] })
    await router.push({ name: 'pair', params: { pairing: pairing.id } })
  },
})
</script>

<template>
  <div class="page">
    <h1>Which homework course belongs to {{ about ? `${about.label} ${about.title}` : 'this shell' }}?</h1>
    <p class="soft">The best fitting first. Pairing changes nothing in the shell and nothing at the publisher yet.</p>
    <label for="words" class="sr-only">Search by title, code or term</label>
    <NInput v-model:value="words" clearable placeholder="Search by title, code or term" :input-props="{ id: 'words' }" />
    <ProblemNote :error="pair.error.value" />
    <LoadingNote v-if="isPending" what="the publishers' courses" />
    <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
    <EmptyNote v-else-if="!courses?.length" title="No homework course fits">
      <p>{{ words ? 'Try fewer words.' : 'The publisher lists no course for you; ask the administrator whether its connection works.' }}</p>
    </EmptyNote>
    <table v-else class="plain stack">
      <thead><tr><th scope="col">Homework course</th><th scope="col">Section</th><th scope="col">Term</th><th scope="col">Learners</th><th scope="col">Why</th><th scope="col"><span class="sr-only">Pair</span></th></tr></thead>
      <tbody>
        <tr v-for="course in courses" :key="course.id">
          <td class="wide"><strong class="left-ink">{{ course.title }}</strong><br /><span class="soft">{{ course.publisher }}</span></td>
          <td data-label="Section">{{ course.code }}</td>
          <td data-label="Term">{{ course.term }}</td>
          <td data-label="Learners" class="number">{{ course.learners ?? '–' }}</td>
          <td data-label="Why" class="soft">{{ course.reasons.join(', ') || '–' }}</td>
          <td>
            <span v-if="course.paired" class="soft">paired already</span>
            <NButton v-else size="small" :loading="pair.isPending.value && pair.variables.value === course.id" @click="pair.mutate(course.id)">Pair<span class="sr-only"> with {{ course.title }}, {{ course.code }}, {{ course.term }}</span></NButton>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
table { margin-top: 0.8rem; }
</style>
