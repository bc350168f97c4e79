<script setup lang="ts">
import { NCheckbox } from 'naive-ui/es/checkbox'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { stateName } from '@/logic/states'

/** The questions of a quiz as learners see them, and which of them come along. */
const props = defineProps<{ questions: Schemas['Preview']['questions']; mayChange: boolean }>()
/** Their numbers, from 1; undefined: all. */
const taken = defineModel<number[]>()
const numbers = computed(() => props.questions.map((_, place) => place + 1))
const wanted = computed(() => taken.value ?? numbers.value)
function take(number: number, on: boolean) {
  const said = numbers.value.filter((each) => (each === number ? on : wanted.value.includes(each)))
  taken.value = said.length === numbers.value.length ? undefined : said
}
const STYLE = 'body{font:14px/1.4 sans-serif;margin:4px;color:#1d2130;background:#fff}'
const page = (question: Schemas['Preview']['questions'][number]) =>
  `<meta charset=utf-8><style>${STYLE}</style>${question.prompt}<ul>${question.choices.map((each) => `<li>${each}</li>`).join('')}</ul>`
</script>

<template>
  <ol>
    <li v-for="(question, number) in questions" :key="number">
      <NCheckbox
        v-if="mayChange"
        :checked="wanted.includes(number + 1)"
        :disabled="wanted.length === 1 && wanted.includes(number + 1)"
        @update:checked="(on: boolean) => take(number + 1, on)"
        >{{ $t('content.entry_preview.bring_in_question', { number: number + 1 }) }}</NCheckbox
      >
      <iframe
        class="question"
        sandbox=""
        :srcdoc="page(question)"
        :title="$t('content.entry_preview.question', { number: number + 1 })"
      ></iframe>
      <span class="soft"
        >{{ stateName('question', question.kind)
        }}<template v-if="question.points">{{
          $t('content.entry_preview.points', { points: question.points })
        }}</template></span
      >
    </li>
  </ol>
</template>

<style scoped>
ol {
  padding-left: 1.4rem;
}
.question {
  width: 100%;
  height: 7.5rem;
  border: 1px solid var(--rule);
  border-radius: 8px;
  background: #fff;
}
</style>
