<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import AgreementVenn from '@/figures/AgreementVenn.vue'
import { many } from '@/logic/counting'
import { inZone } from '@/logic/dates'
import { nothing, type Wanted } from './remedies'

/** In ten seconds: how many cells disagree, what to press first, and how fresh that is. */
const props = defineProps<{
  comparison: Schemas['Comparison']
  zone: string
  mayAct: boolean
  busy: boolean
}>()
const emit = defineEmits<{ settle: [wanted: Wanted]; compare: [] }>()
const summary = computed(() => props.comparison.summary)
const agree = computed(() => summary.value?.kinds.agree ?? 0)
const apart = computed(() => (summary.value?.cells ?? 0) - agree.value)
const safe = computed(() => summary.value?.safe ?? 0)
const unread = computed(() => summary.value?.open?.unread ?? 0)
const urgent = computed(() => summary.value?.urgent ?? 0)
const typed = computed(
  () =>
    ['edited', 'gradebook_only', 'withdrawn'].reduce(
      (sum, kind) => sum + (summary.value?.open?.[kind] ?? 0),
      0,
    ) - explained.value,
)
const level = computed(() => (urgent.value ? 'trouble' : apart.value ? 'waits' : 'well'))
const root = computed(() => summary.value?.roots?.[0])
const explained = computed(() =>
  (summary.value?.roots ?? []).reduce((sum, each) => sum + each.cells, 0),
)
const plural = (count: number, one: string, many: string) => `${count} ${count === 1 ? one : many}`
const sentence = computed(() =>
  apart.value
    ? `${apart.value} of ${plural(summary.value?.cells ?? 0, 'score does', 'scores do')} not agree.`
    : `All ${summary.value?.cells ?? 0} scores agree.`,
)
const advice = computed(() => {
  const rest = urgent.value - safe.value - unread.value
  const said = [
    root.value
      ? `${explained.value === apart.value ? 'All' : explained.value} of them have ${summary.value?.roots?.length === 1 ? 'one cause' : `${summary.value?.roots?.length} causes`}: '${root.value.item}' counts ${root.value.gradebook} points in the gradebook and ${root.value.publisher} at the publisher`
      : '',
    safe.value
      ? `${plural(safe.value, 'is', 'are')} safe to send now: nobody typed anything there`
      : '',
    rest > 0 ? `${plural(rest, 'needs', 'need')} your word, below by cause` : '',
    unread.value
      ? `${plural(unread.value, 'was', 'were')} not read at the publisher, so nothing is written there`
      : '',
    typed.value > 0
      ? `${plural(typed.value, 'stays', 'stay')} as somebody typed or left ${typed.value === 1 ? 'it' : 'them'}, unless you choose otherwise`
      : '',
    summary.value?.open?.held ? `${summary.value.open.held} held on purpose` : '',
    summary.value?.new ? `${summary.value.new} new since the last comparison` : '',
    summary.value?.kept ? `${summary.value.kept} kept as they are` : '',
  ].filter(Boolean)
  return said.length ? `${said.join('; ')}.` : 'Nothing is asked of you.'
})
</script>

<template>
  <section
    v-if="summary"
    class="verdict row"
    :class="level"
    aria-live="polite"
    aria-label="How the two sides compare"
  >
    <AgreementVenn :agree="agree" :cells="summary.cells" />
    <div class="said">
      <strong>{{ sentence }}</strong> {{ advice }}
      <div class="soft small">
        Compared {{ inZone(comparison.at, zone) }}: {{ many(summary.learners, 'learner') }},
        {{ many(summary.columns, 'column')
        }}<template v-if="comparison.file"
          >, with the file {{ comparison.file }} as the gradebook; compare now to settle</template
        >.
        <details class="sources">
          <summary>Where it was read</summary>
          <ul>
            <li v-for="each in comparison.sources" :key="each.side">
              {{ each.name }}: {{ each.how }}, {{ inZone(each.at, zone) }}.
            </li>
          </ul>
        </details>
      </div>
    </div>
    <div class="push row">
      <NButton
        v-if="root && mayAct"
        type="primary"
        @click="emit('settle', { ...nothing(), kinds: { 'points_differ:': 'put_back' } })"
        >Put the points back</NButton
      >
      <NButton
        v-if="safe && mayAct"
        type="primary"
        @click="emit('settle', { ...nothing(), safe: true })"
        >Send the {{ safe === 1 ? 'safe one' : `${safe} safe ones` }}</NButton
      >
      <NButton
        :type="(safe || root) && mayAct ? 'default' : 'primary'"
        :loading="busy"
        @click="emit('compare')"
        >Compare now</NButton
      >
    </div>
  </section>
</template>

<style scoped>
.verdict {
  background: var(--both-wash);
  border-radius: 12px;
  padding: 0.6rem 1rem;
  margin-bottom: 0.8rem;
  flex-wrap: nowrap;
}
.verdict.trouble {
  background: var(--alarm-wash);
}
.verdict :deep(.n-button--default-type) {
  background: var(--sheet);
}
.said strong {
  font-size: 1.15rem;
}
.small {
  font-size: 0.88rem;
}
.verdict.trouble .soft {
  color: var(--ink);
}
.sources {
  display: inline;
}
.sources summary {
  display: inline;
  cursor: pointer;
  text-decoration: underline;
}
.sources ul {
  margin: 0.3rem 0 0;
  padding-left: 1.1rem;
}
@media (max-width: 860px) {
  .verdict {
    flex-wrap: wrap;
  }
  .push {
    margin-left: 0;
  }
}
</style>
