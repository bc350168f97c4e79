<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import { loudestFirst } from '@/logic/kinds'
import AfterReading from '@/parts/AfterReading.vue'
import KindTag from '@/parts/KindTag.vue'
import ListTable from '@/parts/ListTable.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import AgreementBar from './AgreementBar.vue'
import { agreementColumns } from './agreementColumns'
import { days, share, useAgreement } from './useAgreement'

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
const columns = agreementColumns()
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
    <AfterReading
      :reading="list"
      :what="$t('reconcile.agreement.all_pairings')"
      :none="!rows.length && nothing.title"
      :none-means="nothing.what"
    >
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
    </AfterReading>
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
