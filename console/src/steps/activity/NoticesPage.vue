<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { onUnmounted } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'

const client = useQueryClient()
const { data, error, isPending } = useQuery({
  queryKey: ['notices'],
  queryFn: () => answered(api.GET('/api/v1/notices', { params: { query: { limit: 50 } } })),
})
const read = useMutation({
  mutationFn: () => answered(api.POST('/api/v1/notices/read')),
  onSuccess: () => client.invalidateQueries({ queryKey: ['me'] }),
})
// What was seen is read once one leaves, so that the new ones stand out for as long as one looks.
onUnmounted(() => data.value?.results.some((each) => !each.read_at) && read.mutate())
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone
</script>

<template>
  <div class="page">
    <h1>Notices</h1>
    <LoadingNote v-if="isPending" what="your notices" />
    <ProblemNote v-else-if="error" :error="error" />
    <EmptyNote v-else-if="!data?.results.length" title="Nothing waits for you"
      ><p>When a long set-up is ready, or something needs you, it stands here.</p></EmptyNote
    >
    <ol v-else>
      <li v-for="notice in data.results" :key="notice.id" :class="{ fresh: !notice.read_at }">
        <time :datetime="notice.at" class="soft">{{ inZone(notice.at, zone) }}</time>
        <span><span v-if="!notice.read_at" class="sr-only">New: </span>{{ notice.sentence }}</span>
        <RouterLink v-if="notice.link" :to="notice.link"
          >Open<span class="sr-only"> {{ notice.sentence }}</span></RouterLink
        >
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 9rem 1fr auto;
  gap: 1rem;
  padding: 0.55rem 0.6rem;
  border-bottom: 1px solid var(--rule);
  border-left: 4px solid transparent;
}
li.fresh {
  border-left-color: var(--both);
  background: var(--both-wash);
}
@media (max-width: 640px) {
  li {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
