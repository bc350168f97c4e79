<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed } from 'vue'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'
import AgreementTable from './AgreementTable.vue'
import { share, useAgreement } from './useAgreement'

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
      <AgreementTable :rows="rows" />
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
</style>
