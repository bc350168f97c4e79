<script setup lang="ts">
import { NDrawer, NDrawerContent } from 'naive-ui/es/drawer'
import { NButton } from 'naive-ui/es/button'
import { NInput } from 'naive-ui/es/input'
import { computed, ref, toRef } from 'vue'
import { inZone } from '@/logic/dates'
import { STATES, stateWords } from '@/logic/relay'
import AfterReading from '@/parts/AfterReading.vue'
import ListTable from '@/parts/ListTable.vue'
import type { Column } from '@/parts/listTable'
import { t } from '@/words'
import ScoreStory from './ScoreStory.vue'
import { useScores } from './useScores'

const props = defineProps<{ pairing: string; counts: Record<string, number>; zone: string }>()
const { state, words, choose, rows, reading, fetchNextPage, hasNextPage, isFetchingNextPage } =
  useScores(toRef(props, 'pairing'))
type Score = (typeof rows.value)[number]
const open = ref<Score>()
const showing = computed({
  get: () => open.value !== undefined,
  set: (on) => (open.value = on ? open.value : undefined),
})
const when = (row: Score) =>
  row.state === 'accepted' ? row.sent_at : (row.since ?? row.changed_at)
const columns = computed<Column<Score>[]>(() => [
  { key: 'learner', title: t('scores.learner'), heading: true, by: (row) => row.learner },
  { key: 'state', title: t('scores.state'), by: (row) => stateWords(row.state) },
  { key: 'item', title: t('scores.item'), text: (row) => row.item, by: (row) => row.item },
  {
    key: 'reported',
    title: t('scores.reported'),
    number: true,
    by: (row) => (row.reported === null ? null : Number(row.reported)),
  },
  {
    key: 'accepted',
    title: t('scores.accepted'),
    number: true,
    text: (row) => row.sent ?? '–',
    by: (row) => (row.sent === null ? null : Number(row.sent)),
  },
  {
    key: 'when',
    title: t('scores.when'),
    text: (row) => inZone(when(row), props.zone),
    by: (row) => when(row),
  },
  {
    key: 'why',
    title: t('scores.why'),
    text: (row) => `${row.reason} ${row.remedy}`.trim(),
    skipNarrow: (row) => !row.reason,
    minWidth: 180,
  },
])
</script>

<template>
  <section :aria-label="$t('scores.title')">
    <div class="row chips" role="group" :aria-label="$t('scores.show_only')">
      <NButton
        v-for="name in STATES.filter((each) => counts[each])"
        :key="name"
        size="small"
        round
        :type="state === name ? 'primary' : 'default'"
        :class="name"
        :aria-pressed="state === name"
        @click="choose(name)"
        ><b>{{ counts[name] }}</b
        >&nbsp;{{ stateWords(name) }}</NButton
      >
      <NInput
        v-model:value="words"
        class="find push"
        size="small"
        clearable
        :placeholder="$t('scores.find')"
        :input-props="{ 'aria-label': $t('scores.find'), type: 'search' }"
      />
    </div>
    <AfterReading
      :reading="reading"
      :what="$t('scores.what')"
      :none="
        !rows.length &&
        (state ? $t('scores.none_is', { state: stateWords(state) }) : $t('scores.none'))
      "
      :none-means="state || words ? $t('scores.choose_another') : $t('scores.first_comes')"
    >
      <ListTable
        :label="$t('scores.title')"
        :columns="columns"
        :rows="rows"
        :row-key="(row) => String(row.id)"
      >
        <template #cell-learner="{ row }">
          <NButton text class="who" @click="open = row"
            >{{ row.learner
            }}<span class="sr-only"
              >: {{ $t('scores.history_of', { item: row.item }) }}</span
            ></NButton
          >
        </template>
        <template #cell-state="{ row }"
          ><span class="state" :class="row.state">{{ stateWords(row.state) }}</span></template
        >
        <template #cell-reported="{ row }"
          >{{ row.reported ?? '–'
          }}<span v-if="row.reported !== null" class="soft"> / {{ row.points }}</span></template
        >
      </ListTable>
    </AfterReading>
    <p v-if="hasNextPage">
      <NButton size="small" :loading="isFetchingNextPage" @click="fetchNextPage()">{{
        $t('common.more')
      }}</NButton>
    </p>
    <NDrawer v-model:show="showing" width="min(36rem, 100vw)" :aria-label="$t('scores.history')">
      <NDrawerContent :title="$t('scores.history')" closable>
        <ScoreStory v-if="open" :pairing="pairing" :score="open.id" :zone="zone" />
      </NDrawerContent>
    </NDrawer>
  </section>
</template>

<style scoped>
.chips {
  margin-bottom: 0.6rem;
  gap: 0.5rem;
}
.find {
  width: 14rem;
}
.state.refused,
.state.clash {
  color: var(--alarm);
  font-weight: 600;
}
.state.waiting,
.state.sending,
.state.held,
.state.withdrawn {
  color: var(--left);
}
.state.accepted {
  color: var(--good);
}
</style>
