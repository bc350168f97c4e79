<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed, ref, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useLearnerChecks } from './useLearnerChecks'
import { t } from '@/words'

const props = defineProps<{ pairing: string; mayChange: boolean }>()
const { last, troubled, job, running, start } = useLearnerChecks(toRef(props, 'pairing'))
const ASKED = [
  ['opens', t('deploy.learner_view.opens_the_right_item')],
  ['visible', t('deploy.learner_view.learners_see_it')],
  ['date', t('deploy.learner_view.dates_agree')],
  ['score', t('deploy.learner_view.a_score_comes_back')],
] as const
const MARK: Record<string, string> = { yes: '✓', no: '✕', unknown: '–' }
const every = ref(false)
const rows = computed(() => (every.value ? (last.value?.rows ?? []) : troubled.value))
const count = (name: (typeof ASKED)[number][0], verdict: string) =>
  last.value?.rows.filter((row: Schemas['CheckRow']) => row[name] === verdict).length ?? 0
</script>

<template>
  <section class="sheet" aria-labelledby="learner">
    <div class="row">
      <h2 id="learner">{{ $t('deploy.learner_view.seen_as_a_learner') }}</h2>
      <NButton
        class="push"
        size="small"
        :disabled="!mayChange"
        :loading="running"
        @click="start.mutate()"
        >{{ $t('deploy.learner_view.open_every_link_now') }}</NButton
      >
    </div>
    <JobNote
      v-if="job && (running || job.state === 'failed')"
      :job="job"
      :doing="$t('deploy.learner_view.opening_links_as_a_test')"
    />
    <ProblemNote :error="start.error.value" />
    <p v-if="!last" class="soft">
      {{ $t('deploy.learner_view.after_each_rollout_every_link') }}
    </p>
    <template v-else>
      <dl>
        <div v-for="[name, label] in ASKED" :key="name" :class="{ bad: count(name, 'no') }">
          <dt>{{ label }}</dt>
          <dd>
            {{ $t('deploy.learner_view.of', { yes: count(name, 'yes'), rows: last.rows.length })
            }}<span v-if="count(name, 'no')">
              {{ $t('deploy.learner_view.not', { no: count(name, 'no') }) }}</span
            >
          </dd>
        </div>
      </dl>
      <ul>
        <li v-for="row in rows" :key="row.placement">
          <div class="row">
            <strong>{{ row.title }}</strong><span
              v-for="[name, label] in ASKED"
              :key="name"
              class="verdict"
              :class="row[name]"
              :title="label"
              ><span class="sr-only">{{ label }}: {{ row[name] }}</span
              ><span aria-hidden="true">{{ MARK[row[name]] }}</span></span
            >
          </div>
          <p v-for="each in row.findings" :key="each.code" :class="each.level">
            {{ each.message }} <span class="soft">{{ each.remedy }}</span>
          </p>
        </li>
      </ul>
      <NButton v-if="last.rows.length > troubled.length" size="small" @click="every = !every">
        {{
          every
            ? $t('deploy.learner_view.show_only_what_needs_a')
            : $t('deploy.learner_view.show_all_links', { rows: last.rows.length })
        }}
      </NButton>
    </template>
  </section>
</template>

<style scoped>
.sheet {
  border-top: 4px solid var(--both);
  margin-bottom: 0.9rem;
}
dl {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  margin: 0.4rem 0 0.7rem;
}
dl div {
  background: var(--both-wash);
  border-radius: 10px;
  padding: 0.35rem 0.8rem;
}
dl .bad {
  background: var(--alarm-wash);
}
dt {
  font-size: 0.82rem;
}
dd {
  margin: 0;
  font-weight: 650;
}
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  padding: 0.35rem 0;
  border-bottom: 1px solid var(--rule);
}
li p {
  margin: 0.15rem 0 0;
  font-size: 0.92rem;
  border-left: 3px solid var(--rule);
  padding-left: 0.6rem;
}
li p.error {
  border-color: var(--alarm);
}
li p.warning {
  border-color: var(--left);
}
.verdict {
  font-weight: 700;
  color: var(--good);
}
.verdict.no {
  color: var(--alarm);
}
.verdict.unknown {
  color: var(--soft);
}
</style>
