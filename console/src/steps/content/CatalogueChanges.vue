<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, toRef } from 'vue'
import { useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import ProblemNote from '@/parts/ProblemNote.vue'
import { catalogueQuery } from './queries'

const props = defineProps<{ pairing: string; zone: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const router = useRouter()
const { data: readings } = useQuery(computed(() => catalogueQuery(id.value)))
const last = computed(() => readings.value?.[0])
const refresh = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/catalogue', {
        params: { path: { pairing_pk: id.value } },
      }),
    ),
  onSuccess: () => client.invalidateQueries({ queryKey: ['pairing', id.value] }),
})
const take = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports', {
        params: { path: { pairing_pk: id.value } },
        body: { source: 'catalogue' },
      }),
    ),
  onSuccess: (made) =>
    router.push({ name: 'import', params: { pairing: id.value, import: made.id } }),
})
const WORDS: Record<string, string> = {
  new: 'new',
  renamed: 'renamed',
  moved: 'moved',
  points: 'other points',
  date: 'other date',
  withdrawn: 'withdrawn',
  back: 'back again',
}
const written = (kind: string, value: string) =>
  kind === 'date' ? inZone(value, props.zone) || 'no date' : value || 'none'
</script>

<template>
  <section class="sheet" aria-labelledby="catalogue">
    <div class="row">
      <h2 id="catalogue">At the publisher</h2>
      <span class="soft">{{
        last
          ? `read ${inZone(last.at, zone)}, ${last.items} graded items: ${last.words}`
          : 'read every night; not yet tonight'
      }}</span>
      <NButton v-if="mayChange" class="push" :loading="take.isPending.value" @click="take.mutate()"
        >Choose from the catalogue</NButton
      >
      <NButton v-if="mayChange" :loading="refresh.isPending.value" @click="refresh.mutate()"
        >Look for changes now</NButton
      >
    </div>
    <ProblemNote :error="refresh.error.value ?? take.error.value" />
    <table v-if="last?.changes.length" class="plain stack">
      <thead>
        <tr>
          <th scope="col">Item</th>
          <th scope="col">Change</th>
          <th scope="col">Before</th>
          <th scope="col">Now</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="change in last.changes" :key="change.key + change.kind">
          <td class="wide">{{ change.title }}</td>
          <td data-label="Change">
            <span class="left-ink">{{ WORDS[change.kind] ?? change.kind }}</span>
          </td>
          <td data-label="Before" :class="{ none: !change.before }">
            {{ change.before ? written(change.kind, change.before) : '–' }}
          </td>
          <td data-label="Now" :class="{ none: !change.after }">
            {{ change.after ? written(change.kind, change.after) : '–' }}
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
h2 {
  margin: 0;
}
</style>
