<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref, watch } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { useJob } from '@/parts/job'
import JobNote from '@/parts/JobNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { shellToolQuery } from './queries'

type Changes = Schemas['PatchedChangeToolRequest']
const props = defineProps<{ shell: string; pairing: string; zone: string; mayChange: boolean }>()
const client = useQueryClient()
const { data: tool, error, isPending } = useQuery(computed(() => shellToolQuery(props.shell)))
const asked = ref<Changes>()
const send = (body: Changes) =>
  answered(api.PATCH('/api/v1/shells/{id}/tool', { params: { path: { id: props.shell } }, body }))
const change = useMutation({
  mutationFn: (changes: Changes) => send({ ...changes, etag: tool.value?.etag }),
  onSuccess: () => (asked.value = undefined),
})
const { job } = useJob(
  computed(() => change.data.value?.job?.id),
  computed(() => props.pairing),
)
watch(
  () => job.value?.state,
  (state) => {
    if (state === 'done' || state === 'failed')
      client.invalidateQueries({ queryKey: ['shell', props.shell] })
  },
)
const foresee = useMutation({
  mutationFn: (changes: Changes) => send({ ...changes, dry_run: true }),
  onSuccess: (seen, changes) => (seen.warning ? (asked.value = changes) : change.mutate(changes)),
})
</script>

<template>
  <LoadingNote v-if="isPending" what="the shell" />
  <ProblemNote v-else-if="error" :error="error" />
  <template v-else-if="tool && !tool.offered">
    <p>The platform has no service for this; it is done by hand there:</p>
    <ol>
      <li v-for="step in tool.by_hand" :key="step">{{ step }}</li>
    </ol>
    <p class="soft">Last opened from the shell: {{ inZone(tool.opened_at, zone) }}</p>
  </template>
  <template v-else-if="tool">
    <p>
      Venn Pair is <strong>{{ tool.on ? 'on' : 'off' }}</strong>,
      {{
        tool.navigation
          ? `in the navigation at place ${(tool.position ?? 0) + 1}`
          : 'not in the navigation'
      }}, for {{ tool.audience === 'everyone' ? 'everyone' : 'instructors only' }}.
      {{ tool.links }} homework {{ tool.links === 1 ? 'link needs' : 'links need' }} it.
    </p>
    <div v-if="mayChange" class="row">
      <NButton
        size="small"
        :loading="foresee.isPending.value"
        @click="foresee.mutate({ on: !tool.on })"
        >{{ tool.on ? 'Turn off' : 'Turn on' }}</NButton
      >
      <NButton size="small" @click="foresee.mutate({ navigation: !tool.navigation })">{{
        tool.navigation ? 'Take out of the navigation' : 'Put in the navigation'
      }}</NButton>
      <NButton
        v-if="tool.audience === 'everyone'"
        size="small"
        @click="foresee.mutate({ audience: 'instructor' })"
        >Show to instructors only</NButton
      >
      <NButton v-else size="small" @click="foresee.mutate({ audience: 'everyone' })"
        >Show to everyone</NButton
      >
      <NButton
        v-if="tool.navigation && (tool.position ?? 0) > 0"
        size="small"
        @click="change.mutate({ position: (tool.position ?? 1) - 1 })"
        >Up<span class="sr-only"> in the navigation</span></NButton
      >
      <NButton
        v-if="tool.navigation"
        size="small"
        @click="change.mutate({ position: (tool.position ?? 0) + 1 })"
        >Down<span class="sr-only"> in the navigation</span></NButton
      >
    </div>
    <div v-if="asked" class="warn" role="alert">
      <p>{{ foresee.data.value?.warning }}</p>
      <div class="row">
        <NButton
          size="small"
          type="primary"
          :loading="change.isPending.value"
          @click="change.mutate(asked)"
          >Do it</NButton
        ><NButton size="small" @click="asked = undefined">Leave it</NButton>
      </div>
    </div>
    <JobNote v-if="job" :job="job" doing="Changing Venn Pair's place" />
    <ProblemNote :error="change.error.value ?? foresee.error.value" />
  </template>
</template>

<style scoped>
.warn {
  background: var(--alarm-wash);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
  margin-top: 0.6rem;
}
</style>
