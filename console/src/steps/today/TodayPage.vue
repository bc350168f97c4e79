<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, defineAsyncComponent } from 'vue'
import { RouterLink } from 'vue-router'
import AfterReading from '@/parts/AfterReading.vue'
import EmptyNote from '@/parts/EmptyNote.vue'
import FirstHint from '@/parts/FirstHint.vue'
import { meQuery } from '@/steps/connect/queries'
import { t } from '@/words'
import NeedRow from './NeedRow.vue'
import { todayQuery } from './queries'
import TodayCounts from './TodayCounts.vue'

// Charts come when everything else is there.
const ScoreDays = defineAsyncComponent(() => import('@/figures/ScoreDays.vue'))

const { data: me } = useQuery(meQuery())
const { data: today, ...reading } = useQuery(todayQuery())
const groups = computed(() =>
  (['urgent', 'soon', 'note'] as const)
    .map((level) => ({
      level,
      title: t(`today.level.${level}`),
      needs: today.value?.needs.filter((need) => need.level === level) ?? [],
    }))
    .filter((group) => group.needs.length),
)
const moved = computed(() => today.value?.days.some((day) => day.received || day.delivered))
</script>

<template>
  <div class="page">
    <h1>{{ me ? $t('today.hello', { name: me.name }) : $t('frame.today') }}</h1>
    <AfterReading :reading="reading" :what="$t('today.what')">
      <template v-if="today">
        <FirstHint name="today">{{ $t('today.hint') }}</FirstHint>
        <TodayCounts :today="today" />
        <EmptyNote v-if="!today.shells" :title="$t('today.no_shells')"
          ><p>{{ $t('today.no_shells_means') }}</p></EmptyNote
        >
        <EmptyNote v-else-if="!today.needs.length" :title="$t('today.nothing')"
          ><p>
            {{ $t('today.nothing_means') }}
            <RouterLink :to="{ name: 'shells' }">{{ $t('today.see_shells') }}</RouterLink>
          </p></EmptyNote
        >
        <section
          v-for="group in groups"
          :key="group.level"
          :aria-labelledby="`level-${group.level}`"
        >
          <h2 :id="`level-${group.level}`">{{ group.title }}</h2>
          <ul>
            <NeedRow v-for="(need, place) in group.needs" :key="place" :need="need" />
          </ul>
        </section>
        <p v-if="today.more" class="soft">{{ $t('today.more', today.more) }}</p>
        <section v-if="moved" class="sheet" aria-labelledby="days">
          <h2 id="days">{{ $t('today.days') }}</h2>
          <ScoreDays :days="today.days" />
        </section>
      </template>
    </AfterReading>
  </div>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0 0 1.1rem;
  display: grid;
  gap: 0.5rem;
}
</style>
