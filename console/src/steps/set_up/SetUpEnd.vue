<script setup lang="ts">
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'

/** How a set-up ended, and what one does next; nothing while it is not begun or under way. */
const props = defineProps<{ about: Schemas['SetUp']; busy: boolean }>()
const stages = computed(() => props.about.sections.map((each) => each.stage))
const all = (stage: string) => stages.value.length > 0 && stages.value.every((s) => s === stage)
const live = computed(() => stages.value.filter((stage) => stage === 'live').length)
</script>

<template>
  <p v-if="about.started_at && all('live') && about.words" role="status" class="end">
    <strong>{{ about.words }}.</strong> {{ $t('set_up.set_up.set_the_weights_and_drop') }}
  </p>
  <p v-else-if="about.started_at && !busy && live" role="status" class="end">
    <strong>{{ $t('set_up.set_up.of_sections_are_live', { live, stages: stages.length }) }}</strong>
    {{ $t('set_up.set_up.the_others_say_below_what') }}
  </p>
  <div v-else-if="all('undone')" role="status" class="end row">
    <span
      ><strong>{{ $t('set_up.set_up.everything_was_taken_back') }}</strong>
      {{ $t('set_up.set_up.the_shells_are_as_they') }}</span
    >
    <RouterLink class="go push" to="/set-up">{{ $t('set_up.set_up.set_up_again') }}</RouterLink>
    <RouterLink :to="{ name: 'shells' }">{{ $t('set_up.begin.go_to_your_shells') }}</RouterLink>
  </div>
</template>

<style scoped>
.end {
  background: var(--both-wash);
  border-radius: 10px;
  padding: 0.7rem 1rem;
}
</style>
