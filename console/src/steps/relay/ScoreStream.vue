<script setup lang="ts">
import { useInfiniteQuery } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import { STATES, stateWords } from '@/logic/relay'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import ScoreStory from './ScoreStory.vue'

const props = defineProps<{ pairing: string; counts: Record<string, number>; zone: string }>()
const route = useRoute()
const router = useRouter()
const state = computed(() => String(route.query.state ?? ''))
const choose = (wanted: string) =>
  router.replace({ query: { ...route.query, state: wanted === state.value ? undefined : wanted } })
const { data, error, isPending, fetchNextPage, hasNextPage, isFetchingNextPage } = useInfiniteQuery(
  {
    queryKey: computed(() => ['pairing', props.pairing, 'relay', 'scores', state.value]),
    queryFn: ({ pageParam }) =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/scores', {
          params: {
            path: { pairing_pk: props.pairing },
            query: {
              limit: 50,
              cursor: pageParam || undefined,
              state: (state.value ? [state.value] : undefined) as never,
            },
          },
        }),
      ),
    initialPageParam: '',
    getNextPageParam: (last) =>
      last.next ? (new URL(last.next).searchParams.get('cursor') ?? undefined) : undefined,
    refetchInterval: 4_000,
  },
)
const rows = computed(() => data.value?.pages.flatMap((page) => page.results) ?? [])
const open = ref<number>()
const why = (row: { reason: string; until: string | null }) => row.reason
</script>

<template>
  <section aria-label="Scores">
    <div class="row chips" role="group" aria-label="Show only">
      <button
        v-for="name in STATES.filter((each) => counts[each])"
        :key="name"
        type="button"
        :class="[name, { on: state === name }]"
        :aria-pressed="state === name"
        @click="choose(name)"
      >
        <b>{{ counts[name] }}</b> {{ stateWords(name) }}
      </button>
    </div>
    <LoadingNote v-if="isPending" what="the scores" />
    <ProblemNote v-else-if="error" :error="error" />
    <EmptyNote
      v-else-if="!rows.length"
      :title="state ? `No score is ${stateWords(state)}` : 'No scores yet'"
      ><p>
        {{
          state
            ? 'Choose another kind above.'
            : 'The first one appears here within seconds of a learner handing in.'
        }}
      </p></EmptyNote
    >
    <table v-else class="plain stack">
      <thead>
        <tr>
          <th scope="col">Where it stands</th>
          <th scope="col">Learner</th>
          <th scope="col">Item</th>
          <th scope="col" class="number"><span class="left-ink">Reported</span></th>
          <th scope="col" class="number"><span class="right-ink">Accepted</span></th>
          <th scope="col">When</th>
          <th scope="col">Why</th>
        </tr>
      </thead>
      <tbody v-for="row in rows" :key="row.id">
        <tr>
          <td data-label="Stands">
            <button
              type="button"
              class="state"
              :class="row.state"
              :aria-expanded="open === row.id"
              @click="open = open === row.id ? undefined : row.id"
            >
              {{ stateWords(row.state)
              }}<span class="sr-only">: the story of {{ row.learner }}, {{ row.item }}</span>
            </button>
          </td>
          <td data-label="Learner">{{ row.learner }}</td>
          <td data-label="Item">{{ row.item }}</td>
          <td data-label="Reported" class="number">
            {{ row.reported ?? '–'
            }}<span v-if="row.reported !== null" class="soft"> / {{ row.points }}</span>
          </td>
          <td data-label="Accepted" class="number">{{ row.sent ?? '–' }}</td>
          <td data-label="When">
            {{
              inZone(row.state === 'accepted' ? row.sent_at : (row.since ?? row.changed_at), zone)
            }}
          </td>
          <td data-label="Why" class="soft" :class="{ none: !row.reason }">
            {{ why(row) }} {{ row.remedy }}
          </td>
        </tr>
        <tr v-if="open === row.id" class="story">
          <td colspan="7"><ScoreStory :pairing="pairing" :score="row.id" :zone="zone" /></td>
        </tr>
      </tbody>
    </table>
    <p v-if="hasNextPage">
      <NButton size="small" :loading="isFetchingNextPage" @click="fetchNextPage()"
        >Show more</NButton
      >
    </p>
  </section>
</template>

<style scoped>
.chips {
  margin-bottom: 0.6rem;
  gap: 0.5rem;
}
.chips button,
.state {
  font: inherit;
  color: inherit;
  background: none;
  border: 1px solid var(--rule);
  border-radius: 999px;
  padding: 0.1rem 0.7rem;
  cursor: pointer;
}
.chips button.on {
  background: var(--both-wash);
  border-color: var(--both);
}
.state {
  padding: 0 0.6rem;
  white-space: nowrap;
}
.refused,
.clash {
  color: var(--alarm) !important;
  border-color: var(--alarm) !important;
  font-weight: 600;
}
.waiting,
.sending,
.held,
.withdrawn {
  color: var(--left) !important;
}
.state.accepted {
  color: var(--good);
}
.story td {
  background: var(--sheet);
}
</style>
