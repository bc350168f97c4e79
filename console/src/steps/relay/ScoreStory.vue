<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { inZone } from '@/logic/dates'
import { spanOf, stateWords } from '@/logic/relay'
import { storyQuery } from './queries'
import AfterReading from '@/parts/AfterReading.vue'
import { t } from '@/words'

/** Everything that was reported for one score on the left, everything that was done with it on the right, on one time line. */
const props = defineProps<{ pairing: string; score: number; zone: string }>()
const { data: story, ...reading } = useQuery(computed(() => storyQuery(props.pairing, props.score)))
const DONE: Record<string, string> = {
  accepted: t('relay.score_story.the_gradebook_accepted'),
  refused: t('relay.score_story.the_platform_refused'),
  failed: t('relay.score_story.not_through_tried_again_later'),
  clash: t('relay.score_story.kept_back'),
  checked: t('relay.score_story.read_back_it_stands'),
  told: t('relay.score_story.told_how_far_it_is'),
  again: t('relay.score_story.asked_to_be_sent_again'),
  released: t('relay.score_story.released'),
}
const VIA: Record<string, string> = {
  push: t('relay.score_story.reported'),
  outcomes: t('relay.score_story.reported'),
  pull: t('relay.score_story.read_from_the_publisher'),
  file: t('relay.score_story.read_from_a_file'),
}
const lines = computed(() => {
  const told = story.value
  if (!told) return []
  const reports = told.ledger.map((each) => ({
    at: each.received_at,
    side: 'left',
    words:
      each.given === null
        ? `${VIA[String(each.via)]}: ${each.grading === 'FullyGraded' ? t('relay.score_story.score_taken_back') : each.activity}`
        : t('relay.score_story.of', {
            via: VIA[String(each.via)],
            given: each.given,
            maximum: each.maximum,
          }),
    more: [
      t('relay.score_story.publishers_time', { timestamp: inZone(each.timestamp, props.zone) }),
      each.comment,
    ]
      .filter(Boolean)
      .join('; '),
  }))
  const done = told.passages.map((each) => ({
    at: each.at,
    side: 'right',
    words:
      `${DONE[each.what] ?? each.what} ${each.given === null ? '' : t('relay.score_story.of_2', { given: each.given, maximum: each.maximum })}`.trim(),
    more: [
      each.words,
      each.lag_ms === null
        ? ''
        : t('relay.score_story.after_it_came', { lag_ms: spanOf(each.lag_ms) }),
    ]
      .filter(Boolean)
      .join('; '),
  }))
  return [...reports, ...done].sort((one, other) => one.at.localeCompare(other.at))
})
</script>

<template>
  <AfterReading :reading="reading" :what="$t('relay.score_story.its_story')">
    <div v-if="story">
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
  </AfterReading>
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
