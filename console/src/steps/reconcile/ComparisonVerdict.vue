<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import AgreementVenn from '@/figures/AgreementVenn.vue'
import { inZone } from '@/logic/dates'
import { nothing, type Wanted } from './remedies'
import { verdictOf } from './verdict'

/** In ten seconds: how many cells disagree, what to press first, and how fresh that is. */
const props = defineProps<{
  comparison: Schemas['Comparison']
  zone: string
  mayAct: boolean
  busy: boolean
}>()
const emit = defineEmits<{ settle: [wanted: Wanted]; compare: [] }>()
const summary = computed(() => props.comparison.summary)
const verdict = computed(() => summary.value && verdictOf(summary.value))
</script>

<template>
  <section
    v-if="summary && verdict"
    class="verdict row"
    :class="verdict.level"
    aria-live="polite"
    :aria-label="$t('reconcile.comparison_verdict.how_the_two_sides_compare')"
  >
    <AgreementVenn :agree="verdict.agree" :cells="summary.cells" />
    <div class="said">
      <strong>{{ verdict.sentence }}</strong> {{ verdict.advice }}
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
        v-if="verdict.root && mayAct"
        type="primary"
        @click="emit('settle', { ...nothing(), kinds: { 'points_differ:': 'put_back' } })"
        >{{ $t('reconcile.comparison_verdict.put_the_points_back') }}</NButton
      >
      <NButton
        v-if="verdict.safe && mayAct"
        type="primary"
        @click="emit('settle', { ...nothing(), safe: true })"
        >{{
          $t('reconcile.comparison_verdict.send_the', {
            ones:
              verdict.safe === 1
                ? $t('reconcile.comparison_verdict.safe_one')
                : $t('reconcile.comparison_verdict.safe_ones', { safe: verdict.safe }),
          })
        }}</NButton
      >
      <NButton
        :type="(verdict.safe || verdict.root) && mayAct ? 'default' : 'primary'"
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
