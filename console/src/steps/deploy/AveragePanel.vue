<script setup lang="ts">
import MoreBelow from '@/parts/MoreBelow.vue'
import { NButton } from 'naive-ui/es/button'
import { ref, toRef } from 'vue'
import type { Schemas } from '@/api/client'
import JobNote from '@/parts/JobNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import TotalForm from './TotalForm.vue'
import TotalRows from './TotalRows.vue'
import { t } from '@/words'
import { useAverages } from './useAverages'

const WEIGHING = {
  equal: t('deploy.average.items_weigh_alike'),
  points: t('deploy.average.items_weigh_by_their_points'),
  categories: t('deploy.average.categories_weigh_as_you_said'),
} as const
const MISSING = {
  until_due: t('deploy.average.missing_work_is_nothing_until'),
  ignored: t('deploy.average.missing_work_never_counts'),
  zero: t('deploy.average.missing_work_is_zero'),
} as const
const props = defineProps<{ pairing: string; mayChange: boolean }>()
const id = toRef(props, 'pairing')
const { averages, refetch, job, send } = useAverages(id)
const shown = ref('')
const adding = ref(false)
const words = (each: Schemas['Average']) =>
  [
    t('deploy.average.points', { points: each.points }),
    each.items?.length
      ? t('deploy.average.of', { item: t('count.items', each.items.length) })
      : t('deploy.average.of_2', { categories: (each.categories ?? []).join(', ') }),
    WEIGHING[each.weighting ?? 'equal'],
    MISSING[each.missing ?? 'until_due'],
    each.keeps_up ? t('deploy.average.kept_up') : '',
    each.column ? '' : t('deploy.average.no_column'),
  ]
    .filter(Boolean)
    .join(', ')
const made = () => {
  adding.value = false
  refetch()
}
</script>

<template>
  <MoreBelow
    sheet
    :open="Boolean(averages?.length)"
    :title="$t('deploy.average.instead_of_or_beside_a')"
  >
    <template #title>
      <h2>{{ $t('deploy.average.one_average_column') }}</h2>
      <span class="soft">{{ $t('deploy.average.instead_of_or_beside_a') }}</span>
    </template>
    <p class="soft">
      {{ $t('deploy.average.venn_pair_works_it_out') }}
    </p>
    <JobNote v-if="job" :job="job" :doing="$t('deploy.average.sending_averages')" />
    <ProblemNote :error="send.error.value" />
    <div v-for="each in averages" :key="each.id" class="row total">
      <span
        ><strong>{{ each.title }}</strong
        ><br /><span class="soft small">{{ words(each) }}</span></span
      >
      <span class="push row">
        <NButton
          size="small"
          quaternary
          :aria-expanded="shown === each.id"
          @click="shown = shown === each.id ? '' : each.id"
          >{{
            shown === each.id
              ? $t('deploy.average.hide_the_arithmetic')
              : $t('deploy.average.show_the_arithmetic')
          }}</NButton
        >
        <a :href="`/api/v1/pairings/${id}/averages/${each.id}/file`">{{
          $t('deploy.average.save_as_a_table')
        }}</a>
        <NButton
          size="small"
          :disabled="!each.column || !mayChange"
          :loading="send.isPending.value"
          @click="send.mutate(each.id)"
          >{{ $t('deploy.average.send_to_the_gradebook') }}</NButton
        >
      </span>
      <TotalRows v-if="shown === each.id" :pairing="id" :average="each.id" :points="each.points" />
    </div>
    <template v-if="mayChange">
      <TotalForm v-if="adding || !averages?.length" :pairing="id" @made="made" />
      <NButton v-else size="small" quaternary @click="adding = true">{{
        $t('deploy.average.make_another_one')
      }}</NButton>
    </template>
  </MoreBelow>
</template>

<style scoped>
summary {
  cursor: pointer;
}
h2 {
  display: inline;
}
.total {
  padding: 0.4rem 0;
  border-bottom: 1px solid var(--rule);
}
.small {
  font-size: 0.88rem;
}
</style>
