<script setup lang="ts">
import { NInput } from 'naive-ui/es/input'
import { NCheckbox, NCheckboxGroup } from 'naive-ui/es/checkbox'
import { NButton } from 'naive-ui/es/button'
import AgreementVenn from '@/figures/AgreementVenn.vue'
import ScoreMatrix from '@/figures/ScoreMatrix.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import FileFindings from './FileFindings.vue'
import FilePair from './FilePair.vue'
import LayoutField from './LayoutField.vue'
import { useFileComparison } from './useFileComparison'
import { t } from '@/words'

/** Two files compared, without any connection and without an account anywhere. Nothing of them is kept. */
const {
  publisher,
  gradebook,
  layout,
  classId,
  take,
  both,
  compare,
  found,
  agree,
  cells,
  wide,
  severalClasses,
  chosen,
  away,
} = useFileComparison()
const TAKES = [
  { kind: 'unsent', words: t('files.files.write_what_only_the_publisher') },
  { kind: 'differ', words: t('files.files.replace_what_differs_by_the') },
  { kind: 'gradebook_only', words: t('files.files.empty_what_only_the_gradebook') },
]
</script>

<template>
  <div class="page">
    <h1>{{ $t('files.files.compare_two_files') }}</h1>
    <p class="soft">
      {{ $t('files.files.for_a_course_that_is') }}
    </p>
    <FilePair :publisher="publisher" :gradebook="gradebook" @chosen="chosen"
      ><NButton
        v-if="both"
        type="primary"
        :loading="compare.isPending.value"
        @click="compare.mutate()"
        >{{ $t('files.files.compare') }}</NButton
      ></FilePair
    >
    <ProblemNote :error="compare.error.value" />
    <LabeledField v-if="severalClasses" :label="$t('files.files.class')">
      <NInput
        v-model:value="classId"
        size="small"
        :placeholder="$t('files.files.its_id_as_named_above')"
        :input-props="{ 'aria-label': $t('files.files.class') }"
      />
    </LabeledField>
    <LayoutField v-model="layout" :file="wide" :problem="compare.error.value" />
    <template v-if="found">
      <section class="verdict row" :class="{ trouble: agree !== cells }" role="status">
        <AgreementVenn :agree="agree" :cells="cells" />
        <div>
          <strong>{{
            cells === 0
              ? $t('files.files.no_score_to_compare')
              : agree === cells
                ? $t('files.files.all_scores_agree', { cells })
                : $t('files.files.of_scores_do_not_agree', { agree: cells - agree, cells })
          }}</strong>
          {{
            $t('files.files.and_matched', {
              learner: $t('count.learners', found.summary.learners ?? 0),
              column: $t('count.columns', found.summary.columns ?? 0),
            })
          }}
        </div>
        <span class="push row soft"
          >{{ $t('files.files.report') }}
          <NButton
            v-for="form in ['html', 'xlsx', 'csv', 'json']"
            :key="form"
            size="tiny"
            quaternary
            :loading="away.isPending.value && away.variables.value === form"
            @click="away.mutate(form)"
            >{{ form === 'html' ? $t('files.files.page') : form.toUpperCase() }}</NButton
          ></span
        >
      </section>
      <div class="halves">
        <section v-if="found.matrix.items.length" :aria-label="$t('files.files.the_whole_class')">
          <ScoreMatrix :matrix="found.matrix" />
        </section>
        <section>
          <FileFindings :findings="found.findings" />
          <form v-if="agree !== cells" class="sheet" @submit.prevent="away.mutate('gradebook')">
            <h2>{{ $t('files.files.the_gradebooks_file_with_only') }}</h2>
            <NCheckboxGroup v-model:value="take">
              <p v-for="each in TAKES" :key="each.kind">
                <NCheckbox :value="each.kind"
                  >{{ each.words }} ({{ found.summary[each.kind] ?? 0 }})</NCheckbox
                >
              </p>
            </NCheckboxGroup>
            <NButton
              attr-type="submit"
              :disabled="!take.length"
              :loading="away.isPending.value && away.variables.value === 'gradebook'"
              >{{ $t('files.files.save', { name: gradebook?.name }) }}</NButton
            >
            <span class="soft"> {{ $t('files.files.everything_else_stays_as_it') }}</span>
          </form>
          <ProblemNote :error="away.error.value" />
        </section>
      </div>
    </template>
  </div>
</template>

<style scoped>
.verdict {
  background: var(--both-wash);
  border-radius: 12px;
  padding: 0.6rem 1rem;
  margin-bottom: 1rem;
}
.verdict.trouble {
  background: var(--alarm-wash);
}
.verdict.trouble .soft {
  color: var(--ink);
}
.verdict strong {
  font-size: 1.15rem;
}
form p {
  margin: 0.2rem 0;
}
</style>
