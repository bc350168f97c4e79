<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import AgreementVenn from '@/figures/AgreementVenn.vue'
import { inZone } from '@/logic/dates'
import { nothing, type Wanted } from './remedies'
import { t } from '@/words'

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
    ? t('reconcile.comparison_verdict.of_not_agree', {
        apart: apart.value,
        do: plural(
          summary.value?.cells ?? 0,
          t('reconcile.comparison_verdict.score_does'),
          t('reconcile.comparison_verdict.scores_do'),
        ),
      })
    : t('reconcile.comparison_verdict.all_scores_agree', { cells: summary.value?.cells ?? 0 }),
)
const advice = computed(() => {
  const rest = urgent.value - safe.value - unread.value
  const said = [
    root.value
      ? t('reconcile.comparison_verdict.of_them_have_counts_points', {
          explained:
            explained.value === apart.value
              ? t('reconcile.comparison_verdict.all')
              : explained.value,
          causes:
            summary.value?.roots?.length === 1
              ? t('reconcile.comparison_verdict.one_cause')
              : t('reconcile.comparison_verdict.causes', { roots: summary.value?.roots?.length }),
          item: root.value.item,
          gradebook: root.value.gradebook,
          publisher: root.value.publisher,
        })
      : '',
    safe.value ? t('reconcile.comparison_verdict.safe_to_send_now_nobody', safe.value) : '',
    rest > 0 ? t('reconcile.comparison_verdict.your_word_below_by_cause', rest) : '',
    unread.value ? t('reconcile.comparison_verdict.not_read_at_the_publisher', unread.value) : '',
    typed.value > 0 ? t('reconcile.comparison_verdict.as_somebody_typed_or_left', typed.value) : '',
    summary.value?.open?.held
      ? t('reconcile.comparison_verdict.held_on_purpose', { held: summary.value.open.held })
      : '',
    summary.value?.new
      ? t('reconcile.comparison_verdict.new_since_the_last_comparison', { new: summary.value.new })
      : '',
    summary.value?.kept
      ? t('reconcile.comparison_verdict.kept_as_they_are', { kept: summary.value.kept })
      : '',
  ].filter(Boolean)
  return said.length
    ? `${said.join('; ')}.`
    : t('reconcile.comparison_verdict.nothing_is_asked_of_you')
})
</script>

<template>
  <section
    v-if="summary"
    class="verdict row"
    :class="level"
    aria-live="polite"
    :aria-label="$t('reconcile.comparison_verdict.how_the_two_sides_compare')"
  >
    <AgreementVenn :agree="agree" :cells="summary.cells" />
    <div class="said">
      <strong>{{ sentence }}</strong> {{ advice }}
      <div class="soft small">
        {{
          $t('reconcile.comparison_verdict.compared', {
            at: inZone(comparison.at, zone),
            learner: $t('count.learners', summary.learners),
            column: $t('count.columns', summary.columns),
          })
        }}<template v-if="comparison.file">{{
          $t('reconcile.comparison_verdict.with_the_file_as_the', { file: comparison.file })
        }}</template
        >.
        <MoreBelow class="sources" :title="$t('reconcile.comparison_verdict.where_it_was_read')">
          <ul>
            <li v-for="each in comparison.sources" :key="each.side">
              {{ each.name }}: {{ each.how }}, {{ inZone(each.at, zone) }}.
            </li>
          </ul>
        </MoreBelow>
      </div>
    </div>
    <div class="push row">
      <NButton
        v-if="root && mayAct"
        type="primary"
        @click="emit('settle', { ...nothing(), kinds: { 'points_differ:': 'put_back' } })"
        >{{ $t('reconcile.comparison_verdict.put_the_points_back') }}</NButton
      >
      <NButton
        v-if="safe && mayAct"
        type="primary"
        @click="emit('settle', { ...nothing(), safe: true })"
        >{{
          $t('reconcile.comparison_verdict.send_the', {
            ones:
              safe === 1
                ? $t('reconcile.comparison_verdict.safe_one')
                : $t('reconcile.comparison_verdict.safe_ones', { safe }),
          })
        }}</NButton
      >
      <NButton
        :type="(safe || root) && mayAct ? 'default' : 'primary'"
        :loading="busy"
        @click="emit('compare')"
        >{{ $t('reconcile.comparison_verdict.compare_now') }}</NButton
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
