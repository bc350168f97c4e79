<script setup lang="ts">
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { NCheckbox } from 'naive-ui/es/checkbox'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, toRef, watch } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { kindName } from '@/logic/entries'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { previewQuery } from './queries'

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
const client = useQueryClient()
const {
  data: seen,
  error,
  isPending,
} = useQuery(computed(() => previewQuery(props.pairing, props.made, entry.value.id)))
const name = ref('')
watch(entry, (now) => (name.value = now.shown_title), { immediate: true })
const path = computed(() => ({ pairing_pk: props.pairing, import_pk: props.made }))
const again = () => client.invalidateQueries({ queryKey: ['pairing', props.pairing] })
const rename = useMutation({
  mutationFn: () =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/rename', {
        params: { path: path.value },
        body: { names: { [entry.value.id]: name.value.trim() } } as never,
      }),
    ),
  onSuccess: again,
})
const match = useMutation({
  mutationFn: (item: string) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/match', {
        params: { path: { ...path.value, id: entry.value.id } },
        body: { item: item === 'none' ? null : item },
      }),
    ),
  onSuccess: again,
})
const choices = computed(() => [
  { label: 'no graded item', value: 'none' },
  ...props.graded.map((item) => ({
    label: `${item.shown_title} (${item.points ?? 'no'} points)`,
    value: item.id,
  })),
])
const matched = computed(
  () => props.graded.find((item) => item.line_item === entry.value.line_item)?.id ?? 'none',
)
const numbers = computed(() => (seen.value?.questions ?? []).map((_, place) => place + 1))
const taken = computed(() => questions.value[entry.value.id] ?? numbers.value)
function take(number: number, on: boolean) {
  const wanted = numbers.value.filter((each) => (each === number ? on : taken.value.includes(each)))
  const said = { ...questions.value, [entry.value.id]: wanted }
  if (wanted.length === numbers.value.length) delete said[entry.value.id]
  questions.value = said
}
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
      ><template v-if="entry.audience === 'instructor'"
        >. For teachers: it comes in hidden from learners</template
      ><template v-if="entry.points">, {{ entry.points }} points</template
      ><template v-if="entry.due_at">, due {{ inZone(entry.due_at, zone) }}</template>
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
        :input-props="{ 'aria-label': 'Name in the shell' }"
        @keyup.enter="rename.mutate()"
      />
      <NButton
        size="small"
        :disabled="!name.trim() || name === entry.shown_title"
        :loading="rename.isPending.value"
        @click="rename.mutate()"
        >Rename</NButton
      >
    </div>
    <p v-if="entry.naming_reason" class="soft">
      Named so because {{ entry.naming_reason
      }}<template v-if="entry.title !== entry.shown_title && entry.title"
        >; the package calls it “{{ entry.title }}”</template
      >.
    </p>
    <template v-if="entry.kind === 'lti_link' && !entry.blocked">
      <label class="soft" for="opens"
        >Opens at the publisher<template v-if="entry.reason">
          (known by {{ entry.reason }})</template
        ></label
      >
      <select
        id="opens"
        :value="matched"
        :disabled="!mayChange"
        @change="match.mutate(($event.target as HTMLSelectElement).value)"
      >
        <option v-for="each in choices" :key="each.value" :value="each.value">
          {{ each.label }}
        </option>
      </select>
    </template>
    <ProblemNote :error="rename.error.value ?? match.error.value" />
    <LoadingNote v-if="isPending" what="the preview" />
    <ProblemNote v-else-if="error" :error="error" />
    <template v-else-if="seen">
      <p v-if="seen.url && entry.kind === 'web_link'">
        <span class="soft">Leads to</span> {{ seen.url
        }}<template v-if="seen.new_window">, in a new window</template>
      </p>
      <p v-if="seen.vendor"><span class="soft">The tool is made by</span> {{ seen.vendor }}</p>
      <iframe
        v-if="seen.html"
        sandbox=""
        :srcdoc="page"
        :title="`Preview of ${entry.shown_title}`"
      ></iframe>
      <p v-if="seen.html.includes('[picture')" class="soft">
        Pictures are shown once the page stands in the shell.
      </p>
      <ol v-if="seen.questions.length">
        <li v-for="(question, number) in seen.questions" :key="number">
          <NCheckbox
            v-if="mayChange"
            :checked="taken.includes(number + 1)"
            :disabled="taken.length === 1 && taken.includes(number + 1)"
            @update:checked="(on: boolean) => take(number + 1, on)"
            >Bring in question {{ number + 1 }}</NCheckbox
          >
          <iframe
            class="question"
            sandbox=""
            :srcdoc="`<meta charset=utf-8><style>body{font:14px/1.4 sans-serif;margin:4px;color:#1d2130;background:#fff}</style>${question.prompt}<ul>${question.choices.map((each) => `<li>${each}</li>`).join('')}</ul>`"
            :title="`Question ${number + 1}`"
          ></iframe>
          <span class="soft"
            >{{ question.kind.replaceAll('_', ' ')
            }}<template v-if="question.points">, {{ question.points }} points</template></span
          >
        </li>
      </ol>
      <p v-if="seen.files.length > 1" class="soft">
        Comes with {{ seen.files.length }} files: {{ seen.files.slice(0, 6).join(', ')
        }}{{ seen.files.length > 6 ? ' …' : '' }}
      </p>
    </template>
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
.question {
  height: 7.5rem;
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
select {
  display: block;
  width: 100%;
  font: inherit;
  color: inherit;
  background: var(--paper);
  border: 1px solid var(--rule);
  border-radius: 6px;
  padding: 0.3rem 0.4rem;
  margin: 0.2rem 0 0.6rem;
}
ol {
  padding-left: 1.4rem;
}
</style>
