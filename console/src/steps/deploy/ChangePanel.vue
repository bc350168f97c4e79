<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { NSelect } from 'naive-ui/es/select'
import { computed, ref, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { answered, api } from '@/api/client'
import { many } from '@/logic/counting'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { type Change, sheetOfChange, sentencesOf } from './changing'

const props = defineProps<{
  pairing: string
  placements: Schemas['Placement'][]
  folders: string[]
  categories: string[]
  zone: string
}>()
const emit = defineEmits<{ close: []; begun: [rollouts: Schemas['WholeRollout'][]] }>()
const ways: { value: Change['way']; label: string }[] = [
  { value: 'hide', label: 'Hide them from learners' },
  { value: 'show', label: 'Show them to learners' },
  { value: 'from', label: 'Show them from a date' },
  { value: 'rename', label: 'Rename them by a pattern' },
  { value: 'move', label: 'Move them to a folder' },
  { value: 'category', label: 'Change their category' },
]
const way = ref<Change['way']>('hide')
const value = ref('')
watch(way, () => (value.value = way.value === 'rename' ? '{unit}: {title}' : ''))
const change = computed<Change>(() => ({ way: way.value, value: value.value.trim() }))
const whole = computed(() => ['hide', 'show'].includes(way.value) || Boolean(change.value.value))
const send = async (dry: boolean) =>
  (await answered(
    api.POST('/api/v1/pairings/{pairing_pk}/rollouts', {
      params: { path: { pairing_pk: props.pairing } },
      body: {
        items: props.placements.map((each) => each.item),
        ...sheetOfChange(change.value),
        dry_run: dry,
      } as never,
    }),
  )) as unknown
const look = useMutation({ mutationFn: () => send(true) as Promise<Schemas['Plans']> })
const go = useMutation({
  mutationFn: () => send(false) as Promise<Schemas['Started']>,
  onSuccess: (made) => {
    emit('begun', made.rollouts)
    emit('close')
  },
})
let waiting: ReturnType<typeof setTimeout> | undefined
watch(
  [change, () => props.placements],
  () => {
    clearTimeout(waiting)
    look.reset()
    if (whole.value) waiting = setTimeout(() => look.mutate(), 300)
  },
  { immediate: true },
)
const rows = computed(
  () => look.data.value?.shells[0]?.rows.filter((row) => row.action === 'change') ?? [],
)
const options = computed(() =>
  (way.value === 'move' ? props.folders : props.categories).map((each) => ({
    value: each,
    label: each,
  })),
)
</script>

<template>
  <section class="sheet" aria-labelledby="change">
    <div class="row">
      <h2 id="change">Change {{ many(placements.length, 'link') }}</h2>
      <NButton class="push" size="small" @click="$emit('close')">Close</NButton>
    </div>
    <div class="row said">
      <NSelect
        v-model:value="way"
        class="field"
        :options="ways"
        :input-props="{ 'aria-label': 'What to change' }"
      />
      <NSelect
        v-if="way === 'move' || way === 'category'"
        v-model:value="value"
        class="field"
        filterable
        tag
        :options="options"
        :placeholder="way === 'move' ? 'Folder, or the name of a new one' : 'Category'"
        :input-props="{ 'aria-label': way === 'move' ? 'Folder' : 'Category' }"
      />
      <NInput
        v-else-if="way === 'rename'"
        v-model:value="value"
        class="field"
        :input-props="{ 'aria-label': 'Pattern' }"
      />
      <!-- A day and an hour of the course, as the browser asks for them in the reader's own way. -->
      <input
        v-else-if="way === 'from'"
        v-model="value"
        type="datetime-local"
        :aria-label="`Shown from, in the course's zone (${zone})`"
      />
    </div>
    <p v-if="way === 'rename'" class="soft">
      You can use {title}, {unit}, {number}, {category} and {points}.
    </p>
    <LoadingNote v-if="look.isPending.value" what="what would change" />
    <ProblemNote :error="look.error.value ?? go.error.value" />
    <template v-if="look.data.value">
      <ul v-if="rows.length">
        <li v-for="row in rows.slice(0, 6)" :key="row.item">
          {{ sentencesOf(row, zone) }}
        </li>
        <li v-if="rows.length > 6" class="soft">and {{ rows.length - 6 }} more</li>
      </ul>
      <p v-else class="soft">All of them are like this already.</p>
      <NButton v-if="rows.length" type="primary" :loading="go.isPending.value" @click="go.mutate()"
        >Change {{ many(rows.length, 'link') }}</NButton
      >
    </template>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1rem;
}
.said {
  margin-bottom: 0.6rem;
}
.field {
  max-width: 22rem;
}
ul {
  margin: 0 0 0.8rem;
  padding-left: 1.1rem;
}
</style>
