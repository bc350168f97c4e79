<script setup lang="ts">
import AfterReading from '@/parts/AfterReading.vue'
import ChooseOne from '@/parts/ChooseOne.vue'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName } from '@/logic/entries'
import ProblemNote from '@/parts/ProblemNote.vue'
import EntryQuestions from './EntryQuestions.vue'
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
const page = computed(
  () =>
    `<!doctype html><meta charset="utf-8"><style>body{font:15px/1.5 sans-serif;color:#1d2130;background:#fff;margin:12px}img{max-width:100%}</style>${seen.value?.html ?? ''}`,
)
</script>

<template>
  <section aria-live="polite" aria-labelledby="seen">
    <h2 id="seen">{{ entry.shown_title }}</h2>
    <p class="soft">
      {{ kindName(entry.kind) }}<template v-if="entry.unit">, {{ entry.unit }}</template
      ><template v-if="entry.audience === 'instructor'">{{
        $t('content.entry_preview.for_teachers_it_comes_in')
      }}</template
      ><template v-if="entry.points">{{
        $t('content.entry_preview.points', { points: entry.points })
      }}</template
      ><template v-if="entry.due_at">{{
        $t('content.entry_preview.due', { due_at: inZone(entry.due_at, zone) })
      }}</template>
    </p>
    <p v-if="entry.trouble" class="trouble">
      <strong>{{ entry.trouble_message }}</strong> {{ entry.trouble_remedy }}
    </p>
    <p v-else-if="entry.message" class="soft">{{ entry.message }}</p>
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
      <template v-if="seen">
        <p v-if="seen.url && entry.kind === 'web_link'">
          <span class="soft">{{ $t('content.entry_preview.leads_to') }}</span> {{ seen.url
          }}<template v-if="seen.new_window">{{
            $t('content.entry_preview.in_a_new_window')
          }}</template>
        </p>
        <p v-if="seen.vendor">
          <span class="soft">{{ $t('content.entry_preview.the_tool_is_made_by') }}</span>
          {{ seen.vendor }}
        </p>
        <iframe
          v-if="seen.html"
          sandbox=""
          :srcdoc="page"
          :title="$t('content.entry_preview.preview_of', { shown_title: entry.shown_title })"
        ></iframe>
        <p v-if="seen.html.includes('[picture')" class="soft">
          {{ $t('content.entry_preview.pictures_are_shown_once_the') }}
        </p>
        <EntryQuestions
          v-if="seen.questions.length"
          v-model="wanted"
          :questions="seen.questions"
          :may-change="mayChange"
        />
        <p v-if="seen.files.length > 1" class="soft">
          {{
            $t('content.entry_preview.comes_with_files', {
              files: seen.files.length,
              files2: seen.files.slice(0, 6).join(', '),
              files3: seen.files.length > 6 ? ' …' : '',
            })
          }}
        </p>
      </template>
    </AfterReading>
  </section>
</template>

<style scoped>
iframe {
  width: 100%;
  height: 16rem;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: #fff;
}
.trouble {
  background: var(--alarm-wash);
  border-radius: 8px;
  padding: 0.5rem 0.8rem;
}
.name {
  flex-wrap: nowrap;
  margin-bottom: 0.4rem;
}
</style>
