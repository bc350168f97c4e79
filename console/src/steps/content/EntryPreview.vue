<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import EntryFacts from './EntryFacts.vue'
import EntrySeen from './EntrySeen.vue'
import { useEntry } from './useEntry'

const props = defineProps<{
  pairing: string
  made: string
  entry: Schemas['Entry']
  graded: Schemas['Item'][]
  zone: string
  mayChange: boolean
}>()
/** The numbers of a quiz's questions that come along, from 1; by entry, and all where none is said. */
const questions = defineModel<Record<string, number[]>>('questions', { required: true })
const entry = toRef(props, 'entry')
const { seen, name, rename, match, choices, matched, reading } = useEntry(
  toRef(props, 'pairing'),
  toRef(props, 'made'),
  entry,
  toRef(props, 'graded'),
)
const wanted = computed({
  get: () => questions.value[entry.value.id],
  set: (numbers) => {
    const said = { ...questions.value }
    if (numbers) said[entry.value.id] = numbers
    else delete said[entry.value.id]
    questions.value = said
  },
})
</script>

<template>
  <section aria-live="polite" aria-labelledby="seen">
    <h2 id="seen">{{ entry.shown_title }}</h2>
    <EntryFacts :entry="entry" :zone="zone" />
    <div v-if="mayChange" class="row name">
      <NInput
        v-model:value="name"
        size="small"
        :maxlength="255"
        :input-props="{ 'aria-label': $t('content.entry_preview.name_in_shell') }"
        @keyup.enter="rename.mutate()"
      />
      <NButton
        size="small"
        :disabled="!name.trim() || name === entry.shown_title"
        :loading="rename.isPending.value"
        @click="rename.mutate()"
        >{{ $t('content.entry_preview.rename') }}</NButton
      >
    </div>
    <p v-if="entry.naming_reason" class="soft">
      {{ $t('content.entry_preview.named_so_because', { naming_reason: entry.naming_reason })
      }}<template v-if="entry.title !== entry.shown_title && entry.title">{{
        $t('content.entry_preview.the_package_calls_it', { title: entry.title })
      }}</template
      >.
    </p>
    <template v-if="entry.kind === 'lti_link' && !entry.blocked">
      <p id="opens" class="soft">
        {{ $t('content.entry_preview.opens_at_the_publisher')
        }}<template v-if="entry.reason">
          {{ $t('content.entry_preview.known_by', { reason: entry.reason }) }}</template
        >
      </p>
      <ChooseOne
        :value="matched"
        @chosen="match.mutate($event)"
        labelledby="opens"
        :disabled="!mayChange"
        :options="choices"
      />
    </template>
    <ProblemNote :error="rename.error.value ?? match.error.value" />
    <AfterReading :reading="reading" :what="$t('content.entry_preview.the_preview')">
      <EntrySeen v-if="seen" v-model="wanted" :entry="entry" :seen="seen" :may-change="mayChange" />
    </AfterReading>
  </section>
</template>

<style scoped>
.name {
  flex-wrap: nowrap;
  margin-bottom: 0.4rem;
}
</style>
