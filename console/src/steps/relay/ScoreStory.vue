<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { inZone } from '@/logic/dates'
import { spanOf, stateWords } from '@/logic/relay'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { storyQuery } from './queries'

/** Everything that was reported for one score on the left, everything that was done with it on the right, on one time line. */
const props = defineProps<{ pairing: string; score: number; zone: string }>()
const {
  data: story,
  error,
  isPending,
} = useQuery(computed(() => storyQuery(props.pairing, props.score)))
const DONE: Record<string, string> = {
  accepted: 'The gradebook accepted',
  refused: 'The platform refused',
  failed: 'Not through, tried again later:',
  clash: 'Kept back:',
  checked: 'Read back, it stands:',
  told: 'Told how far it is',
  again: 'Asked to be sent again',
  released: 'Released',
}
const VIA: Record<string, string> = {
  push: 'reported',
  outcomes: 'reported',
  pull: 'read from the publisher',
  file: 'read from a file',
}
const lines = computed(() => {
  const told = story.value
  if (!told) return []
  const reports = told.ledger.map((each) => ({
    at: each.received_at,
    side: 'left',
    words:
      each.given === null
        ? `${VIA[String(each.via)]}: ${each.grading === 'FullyGraded' ? 'score taken back' : each.activity}`
        : `${VIA[String(each.via)]}: ${each.given} of ${each.maximum}`,
    more: [`publisher's time ${inZone(each.timestamp, props.zone)}`, each.comment]
      .filter(Boolean)
      .join('; '),
  }))
  const done = told.passages.map((each) => ({
    at: each.at,
    side: 'right',
    words:
      `${DONE[each.what] ?? each.what} ${each.given === null ? '' : `${each.given} of ${each.maximum}`}`.trim(),
    more: [each.words, each.lag_ms === null ? '' : `${spanOf(each.lag_ms)} after it came`]
      .filter(Boolean)
      .join('; '),
  }))
  return [...reports, ...done].sort((one, other) => one.at.localeCompare(other.at))
})
</script>

<template>
  <LoadingNote v-if="isPending" what="its story" />
  <ProblemNote v-else-if="error" :error="error" />
  <div v-else-if="story">
    <p>
      <strong>{{ story.learner }}, {{ story.item }}:</strong> {{ stateWords(story.state) }}.
      {{ story.reason }} {{ story.remedy }}
    </p>
    <ol>
      <li v-for="(line, place) in lines" :key="place" :class="line.side">
        <time :datetime="line.at" class="soft">{{ inZone(line.at, zone) }}</time>
        <span
          ><strong>{{ line.words }}</strong> <span class="soft">{{ line.more }}</span></span
        >
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 8.5rem 1fr;
  gap: 0.8rem;
  padding: 0.25rem 0 0.25rem 0.7rem;
  border-left: 4px solid var(--left);
}
li.right {
  border-color: var(--right);
}
@media (max-width: 640px) {
  li {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
