<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import CellTimeline from '@/figures/CellTimeline.vue'
import { inZone } from '@/logic/dates'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useCellStory } from './useCellStory'
import { t } from '@/words'

/** Everything that happened to one cell, on one time line, and what people noted on it. */
const props = defineProps<{ pairing: string; placement: string; person: string; zone: string }>()
const { story, reading, text, leave, away } = useCellStory(props)
const SIDES: Record<string, string> = { publisher: 'left', gradebook: 'right', venn: 'mid' }
const score = (each: { score: string | null; points: string | null }) =>
  each.score === null
    ? ''
    : each.points
      ? t('reconcile.cell_story.of', { score: each.score, points: each.points })
      : each.score
</script>

<template>
  <section class="sheet story" :aria-label="$t('reconcile.cell_story.the_story_of_this_score')">
    <AfterReading :reading="reading" :what="$t('reconcile.cell_story.its_story')">
      <template v-if="story">
        <h2>{{ story.learner }}, {{ story.item }}</h2>
        <p v-if="story.review">
          <a :href="story.review" target="_blank" rel="noopener">{{
            $t('reconcile.cell_story.open_the_submission_at_the')
          }}</a>
        </p>
        <CellTimeline :events="story.events" :zone="zone" />
        <p v-if="!story.events.length" class="soft">
          {{ $t('reconcile.cell_story.nothing_was_ever_reported_or') }}
        </p>
        <ol>
          <li v-for="(each, place) in story.events" :key="place" :class="SIDES[each.side]">
            <time :datetime="each.at" class="soft">{{ inZone(each.at, zone) }}</time>
            <span
              ><strong>{{ score(each) }}</strong> {{ each.words }}</span
            >
          </li>
        </ol>
        <p v-for="note in story.notes" :key="note.id" class="note">
          <strong>{{ note.author }}</strong>
          <span class="soft">{{ inZone(note.at, zone) }}</span><NButton
            size="tiny"
            quaternary
            :aria-label="$t('reconcile.cell_story.take_away_the_note_of', { author: note.author })"
            @click="away.mutate(note.id)"
          >
            {{ $t('reconcile.cell_story.take_away') }}</NButton
          ><br />{{ note.text }}
        </p>
        <form class="row" @submit.prevent="leave.mutate()">
          <NInput
            v-model:value="text"
            size="small"
            :placeholder="$t('reconcile.cell_story.leave_a_note_for_whoever')"
            :maxlength="1000"
            :input-props="{ 'aria-label': $t('reconcile.cell_story.note') }"
          />
          <NButton
            size="small"
            attr-type="submit"
            :disabled="!text.trim()"
            :loading="leave.isPending.value"
            >{{ $t('reconcile.cell_story.leave_it') }}</NButton
          >
        </form>
        <ProblemNote :error="leave.error.value ?? away.error.value" />
      </template>
    </AfterReading>
  </section>
</template>

<style scoped>
.story {
  margin-bottom: 1rem;
}
ol {
  list-style: none;
  margin: 0.5rem 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: 8.5rem 1fr;
  gap: 0.8rem;
  padding: 0.2rem 0 0.2rem 0.7rem;
  border-left: 4px solid var(--both);
}
li.left {
  border-color: var(--left);
}
li.right {
  border-color: var(--right);
}
.note button {
  float: right;
  font: inherit;
  font-size: 0.85rem;
  color: var(--both);
  background: none;
  border: 0;
  text-decoration: underline;
  cursor: pointer;
  padding: 0;
}
.note {
  background: var(--both-wash);
  border-radius: 8px;
  padding: 0.4rem 0.7rem;
}
form {
  flex-wrap: nowrap;
}
@media (max-width: 640px) {
  li {
    grid-template-columns: 1fr;
    gap: 0;
  }
  form {
    flex-wrap: wrap;
  }
}
</style>
