<script setup lang="ts">
import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, reactive, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { answered, api, type Schemas } from '@/api/client'
import { many } from '@/logic/counting'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { itemsQuery } from '@/steps/content/queries'
import { pairingQuery } from '@/steps/pair/queries'
import CatalogueList from './CatalogueList.vue'
import HowPanel from './HowPanel.vue'
import ItemTable from './ItemTable.vue'
import { HOW, type How, sheetOf } from './sheet'
import { type Wishes, wishesOf } from './wishes'

const props = defineProps<{ picking: string }>()
const {
  data: asked,
  error,
  isPending,
} = useQuery({
  queryKey: ['picking', props.picking],
  queryFn: () =>
    answered(api.GET('/api/v1/pickings/{id}', { params: { path: { id: props.picking } } })),
})
const pairing = computed(() => asked.value?.pairing ?? '')
const { data: about } = useQuery(
  computed(() => ({ ...pairingQuery(pairing.value), enabled: pairing.value !== '' })),
)
const items = useInfiniteQuery(
  computed(() => ({ ...itemsQuery(pairing.value, {}), enabled: pairing.value !== '' })),
)
watch(
  () => items.hasNextPage.value && !items.isFetchingNextPage.value,
  (more) => more && items.fetchNextPage(),
)
const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
const chosen = ref<string[]>([])
const how = reactive<How>({ ...HOW })
const wishes = ref<Wishes>({})
const plan = ref<Schemas['AnswerPlan']>()
const send = async (dry: boolean) =>
  (await answered(
    api.POST('/api/v1/pickings/{id}/answer', {
      params: { path: { id: props.picking } },
      body: {
        items: chosen.value,
        ...sheetOf(how),
        wishes: wishesOf(wishes.value, chosen.value),
        dry_run: dry,
      } as never,
    }),
  )) as unknown
const look = useMutation({
  mutationFn: () => send(true),
  onSuccess: (made) => (plan.value = made as Schemas['AnswerPlan']),
})
let waiting: ReturnType<typeof setTimeout> | undefined
watch([chosen, how, wishes], () => {
  clearTimeout(waiting)
  plan.value = undefined
  if (chosen.value.length) waiting = setTimeout(() => look.mutate(), 250)
})
/** Post the signed answer to the platform, from this window: its dialogue closes by itself. */
const give = useMutation({
  mutationFn: () => send(false),
  onSuccess: (made) => {
    const { url, token } = made as Schemas['Answer']
    const form = Object.assign(document.createElement('form'), { method: 'post', action: url })
    form.append(
      Object.assign(document.createElement('input'), { type: 'hidden', name: 'JWT', value: token }),
    )
    document.body.append(form)
    form.submit()
  },
})
const made = computed(() => plan.value?.rows.filter((row) => row.action === 'make') ?? [])
const sentence = computed(() => {
  if (!chosen.value.length)
    return asked.value?.multiple
      ? 'Choose what the course should get.'
      : 'Choose one item; the platform takes one at a time here.'
  if (!plan.value) return 'Working out what will happen …'
  return `Will give ${many(made.value.length, 'link')} to ${asked.value?.shell || 'the course'}, ${asked.value?.columns ? `${plan.value.columns} with a column` : 'without columns: the platform takes none here'}.`
})
</script>

<template>
  <div class="page">
    <h1>Add homework to {{ asked?.shell || 'the course' }}</h1>
    <LoadingNote
      v-if="isPending || (pairing && items.isPending.value)"
      what="the homework course"
    />
    <ProblemNote v-else-if="error ?? items.error.value" :error="(error ?? items.error.value)!" />
    <EmptyNote v-else-if="!pairing" title="This shell is not paired yet"
      ><p>
        <RouterLink :to="{ name: 'shells' }">Pair it with a homework course</RouterLink>, then begin
        again in {{ asked?.platform }}.
      </p></EmptyNote
    >
    <template v-else>
      <p class="soft">
        {{ asked?.platform }} asks for content. Nothing is added until you press Add.
      </p>
      <section class="sheet">
        <CatalogueList
          v-model="chosen"
          :items="rows"
          :changed="new Set()"
          :zone="about?.shell.timezone ?? 'UTC'"
          :single="!asked?.multiple"
        />
      </section>
      <section class="sheet"><HowPanel v-model="how" :categories="[]" picking /></section>
      <details v-if="chosen.length" class="sheet">
        <summary>Item by item</summary>
        <ItemTable
          v-model="wishes"
          :items="rows"
          :chosen="chosen"
          :rows="plan?.rows"
          :notices="plan?.notices"
          :categories="[]"
          :zone="about?.shell.timezone ?? 'UTC'"
        />
      </details>
      <div class="bar" role="region" aria-label="What will happen">
        <ProblemNote :error="give.error.value ?? look.error.value" />
        <p v-for="(notice, index) in plan?.notices ?? []" :key="index" class="soft">
          {{ notice.message }} {{ notice.remedy }}
        </p>
        <div class="row">
          <p class="sentence" aria-live="polite">{{ sentence }}</p>
          <NButton
            type="primary"
            :disabled="!made.length"
            :loading="give.isPending.value"
            @click="give.mutate()"
            >Add</NButton
          >
        </div>
      </div>
    </template>
  </div>
</template>

<style scoped>
.sheet {
  margin-bottom: 0.9rem;
}
.bar {
  position: sticky;
  bottom: 0;
  background: var(--sheet);
  border: 1px solid var(--rule);
  border-top: 4px solid var(--both);
  border-radius: 12px 12px 0 0;
  padding: 0.7rem 1.1rem;
}
.sentence {
  margin: 0;
  font-weight: 600;
  flex: 1;
}
</style>
