<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import type { Schemas } from '@/api/client'
import { loudestFirst } from '@/logic/kinds'
import EmptyNote from '@/parts/EmptyNote.vue'
import KindTag from '@/parts/KindTag.vue'
import ListTable from '@/parts/ListTable.vue'
import type { Column } from '@/parts/listTable'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import AgreementBar from './AgreementBar.vue'
import { age, days, share, useAgreement } from './useAgreement'

/** Every pairing at once: how far each agrees, what is open by cause, and for how long. What is most urgent comes first. */
const { open, words, list, rows, total, compare, busy } = useAgreement()
const nothing = computed(() =>
  words.value.trim()
    ? {
        title: t('reconcile.agreement.no_pairing_fits'),
        what: t('reconcile.agreement.try_fewer_words'),
      }
    : open.value
      ? {
          title: t('reconcile.agreement.nothing_is_open'),
          what: t('reconcile.agreement.every_pairing_agrees_or_was'),
        }
      : {
          title: t('reconcile.agreement.no_pairings_yet'),
          what: t('reconcile.agreement.a_pairing_is_listed_here'),
        },
)
const STANDING: Record<string, string> = {
  waiting: t('reconcile.agreement.waits_for_its_turn'),
  comparing: t('reconcile.agreement.comparing_now'),
  never: t('reconcile.agreement.not_compared_yet'),
}
const columns: Column<Schemas['Agreement']>[] = [
  { key: 'shell', title: t('common.shell'), by: (row) => row.shell, heading: true, minWidth: 220 },
  { key: 'agreement', title: t('frame.agreement'), by: (row) => share(row), width: 150 },
  {
    key: 'open',
    title: t('reconcile.agreement.open_2'),
    text: (row) => String(row.urgent),
    by: (row) => row.urgent,
    number: true,
    width: 80,
  },
  { key: 'causes', title: t('reconcile.agreement.by_cause'), minWidth: 200 },
  {
    key: 'oldest',
    title: t('reconcile.agreement.oldest'),
    text: (row) => age(row.oldest),
    by: (row) => days(row.oldest),
    width: 120,
  },
  { key: 'compared', title: t('reconcile.agreement.compared'), by: (row) => row.at, width: 130 },
]
</script>

<template>
  <div class="page">
    <div class="row">
      <h1>{{ $t('reconcile.agreement.agreement') }}</h1>
      <NButton
        class="push"
        type="primary"
        :loading="compare.isPending.value"
        @click="compare.mutate()"
        >{{ $t('reconcile.agreement.compare_all_now') }}</NButton
      >
    </div>
    <ProblemNote :error="compare.error.value" />
    <p v-if="compare.data.value && busy" role="status">
      {{
        $t('reconcile.agreement.being_compared_a_few_of', {
          are: $t('count.pairings_are', compare.data.value.asked),
        })
      }}
    </p>
    <label for="pairing-words" class="sr-only">{{
      $t('reconcile.agreement.search_by_shell_course_or')
    }}</label>
    <NInput
      v-model:value="words"
      class="search"
      clearable
      :placeholder="$t('reconcile.agreement.search_by_shell_course_or')"
      :input-props="{ id: 'pairing-words', type: 'search' }"
    />
    <LoadingNote v-if="list.isPending.value" :what="$t('reconcile.agreement.all_pairings')" />
    <ProblemNote v-else-if="list.error.value" :error="list.error.value" @again="list.refetch()" />
    <EmptyNote v-else-if="!rows.length" :title="nothing.title"
      ><p>{{ nothing.what }}</p></EmptyNote
    >
    <template v-else>
      <p class="row">
        <span
          ><strong>{{ share(total) ?? '–' }} %</strong>
          {{
            $t('reconcile.agreement.of_scores_agree_in', {
              cells: total.cells,
              pairing: $t('count.pairings', rows.length),
            })
          }}
          <strong>{{ total.urgent }}</strong>
          {{
            $t('reconcile.agreement.open', {
              are:
                total.urgent === 1
                  ? $t('reconcile.agreement.finding_is')
                  : $t('reconcile.agreement.findings_are'),
            })
          }}</span
        >
        <RouterLink class="push" :to="{ query: open ? {} : { open: 'true' } }">{{
          open
            ? $t('reconcile.agreement.show_all')
            : $t('reconcile.agreement.only_those_with_something_open')
        }}</RouterLink>
      </p>
      <ListTable
        :label="$t('reconcile.agreement.all_pairings')"
        :columns="columns"
        :rows="rows"
        :row-key="(row) => row.pairing"
      >
        <template #cell-shell="{ row }">
          <RouterLink :to="{ name: 'reconcile', params: { pairing: row.pairing } }">{{
            row.shell
          }}</RouterLink>
          <div class="soft small">
            {{ row.course
            }}<template v-if="row.teachers.length"> · {{ row.teachers.join(', ') }}</template>
          </div>
        </template>
        <template #cell-agreement="{ row }">
          <AgreementBar :agree="row.agree" :cells="row.cells" :share="share(row)" />
        </template>
        <template #cell-causes="{ row }">
          <span class="row tags"
            ><RouterLink
              v-for="[kind, count] in loudestFirst(row.open)"
              :key="kind"
              :to="{ name: 'reconcile', params: { pairing: row.pairing }, query: { kind } }"
              ><KindTag :code="kind" :count="count" /></RouterLink
          ></span>
        </template>
        <template #cell-compared="{ row }">
          <span v-if="row.trouble" class="trouble">{{ row.trouble }}</span><span
            v-else
            class="soft"
            >{{
              STANDING[row.standing] ??
              (days(row.at) === 0
                ? $t('reconcile.agreement.today')
                : $t('reconcile.agreement.days_ago', { at: days(row.at) }))
            }}</span
          >
        </template>
      </ListTable>
      <NButton
        v-if="list.hasNextPage.value"
        :loading="list.isFetchingNextPage.value"
        @click="list.fetchNextPage()"
        >{{ $t('reconcile.agreement.show_more') }}</NButton
      >
    </template>
  </div>
</template>

<style scoped>
.search {
  margin: 0.7rem 0;
}
.small {
  font-size: 0.86rem;
}
.tags {
  gap: 0.3rem;
}
.tags a {
  text-decoration: none;
}
.trouble {
  color: var(--alarm);
}
</style>
