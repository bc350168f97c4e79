<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import EntryQuestions from './EntryQuestions.vue'

/** What is in an entry of a package: where it leads, its page, its questions, its files. */
const props = defineProps<{
  entry: Schemas['Entry']
  seen: Schemas['Preview']
  mayChange: boolean
}>()
/** The numbers of the questions that come along, from 1. */
const wanted = defineModel<number[]>()
const page = computed(
  () =>
    `<!doctype html><meta charset="utf-8"><style>body{font:15px/1.5 sans-serif;color:#1d2130;background:#fff;margin:12px}img{max-width:100%}</style>${props.seen.html}`,
)
</script>

<template>
  <p v-if="seen.url && entry.kind === 'web_link'">
    <span class="soft">{{ $t('content.entry_preview.leads_to') }}</span> {{ seen.url
    }}<template v-if="seen.new_window">{{ $t('content.entry_preview.in_a_new_window') }}</template>
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

<style scoped>
iframe {
  width: 100%;
  height: 16rem;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: #fff;
}
</style>
