<script setup lang="ts">
import ChooseOne from '@/parts/ChooseOne.vue'
import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed, defineAsyncComponent, ref, toRef } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import { answered, api } from '@/api/client'
import RelayPulse from '@/figures/RelayPulse.vue'
import { inZone } from '@/logic/dates'
import { spanOf } from '@/logic/relay'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { pairingQuery } from '@/steps/pair/queries'
import { chartQuery, relayQuery } from './queries'
import RulesPanel from './RulesPanel.vue'
import ScoreStream from './ScoreStream.vue'
import SourcesPanel from './SourcesPanel.vue'

// Loaded when everything else is there.
const RelayChart = defineAsyncComponent(() => import('@/figures/RelayChart.vue'))

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const client = useQueryClient()
const route = useRoute()
const router = useRouter()
const path = computed(() => ({ pairing_pk: id.value }))
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const { data: relay, error, isPending, refetch } = useQuery(computed(() => relayQuery(id.value)))
const hours = ref(24)
const { data: chart } = useQuery(computed(() => chartQuery(id.value, hours.value)))
const renew = () => client.invalidateQueries({ queryKey: ['pairing', id.value] })
const turn = useMutation({
  mutationFn: (on: boolean) =>
    answered(
      api.PATCH('/api/v1/pairings/{id}', {
        params: { path: { id: id.value } },
        body: { relay_on: on },
      }),
    ),
  onSuccess: renew,
})
const release = useMutation({
  mutationFn: (early: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/releases', {
        params: { path: path.value },
        body: { placements: [], early, dry_run: false },
      }),
    ),
  onSuccess: renew,
})
const ask = (force: boolean, dry: boolean) =>
  answered(
    api.POST('/api/v1/pairings/{pairing_pk}/relay', {
      params: { path: path.value },
      body: { force, dry_run: dry },
    }),
  )
const compare = useMutation({ mutationFn: () => ask(false, true) })
const again = useMutation({
  mutationFn: (force: boolean) => ask(force, false),
  onSuccess: () => {
    compare.reset()
    renew()
  },
})
const heldFor = (...names: string[]) =>
  Object.entries(relay.value?.held ?? {})
    .filter(([why]) => names.includes(why))
    .reduce((sum, [, count]) => sum + count, 0)
const byHand = computed(() => heldFor('hand', 'late', 'no_due'))
const byTime = computed(() => heldFor('due', 'daily'))
const seeTrouble = () =>
  router.replace({
    query: { ...route.query, state: relay.value?.counts.refused ? 'refused' : 'clash' },
  })
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('relay.relay.the_relay')" />
  <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
  <template v-else-if="relay">
    <section
      class="verdict row"
      :class="relay.verdict.level"
      aria-live="polite"
      :aria-label="$t('relay.relay.how_the_relay_stands')"
    >
      <RelayPulse :level="relay.verdict.level" />
      <div class="said">
        <strong>{{ relay.verdict.sentence }}</strong><br />{{ relay.verdict.remedy }}
      </div>
      <div class="push row">
        <NButton v-if="relay.verdict.act === 'see_refused'" type="primary" @click="seeTrouble()">{{
          $t('relay.relay.show_them')
        }}</NButton>
        <NButton
          v-if="relay.verdict.act === 'see_unreported'"
          type="primary"
          @click="router.push({ name: 'reconcile', params: { pairing: id } })"
          >{{ $t('relay.relay.see_them') }}</NButton
        >
        <RouterLink
          v-if="relay.verdict.act === 'match'"
          :to="{ name: 'pair', params: { pairing: id } }"
          >{{ $t('relay.relay.say_who_they_are') }}</RouterLink
        >
        <NButton
          v-if="byHand && relay.on && about?.may_change"
          :type="relay.verdict.act === 'release' ? 'primary' : 'default'"
          :loading="release.isPending.value"
          @click="release.mutate(false)"
          >{{ $t('relay.relay.release_held', { by_hand: byHand }) }}</NButton
        >
        <NButton
          v-if="byTime && relay.on && about?.may_change"
          quaternary
          :loading="release.isPending.value"
          @click="release.mutate(true)"
          >{{ $t('relay.relay.release_early', { by_hand: byTime + byHand }) }}</NButton
        >
        <NButton
          v-if="about?.may_change"
          :type="relay.on ? 'default' : 'primary'"
          :loading="turn.isPending.value"
          @click="turn.mutate(!relay.on)"
          >{{
            relay.on ? $t('relay.relay.turn_the_relay_off') : $t('relay.relay.turn_the_relay_on')
          }}</NButton
        >
      </div>
    </section>
    <ProblemNote
      :error="turn.error.value ?? again.error.value ?? release.error.value ?? compare.error.value"
    />
    <section class="sheet flow" :aria-label="$t('relay.relay.scores_over_time')">
      <div class="row facts">
        <span
          ><b>{{ relay.received }}</b>
          {{
            $t('relay.relay.report_received', {
              s: relay.received === 1 ? '' : $t('relay.relay.s'),
            })
          }}</span
        >
        <span v-if="relay.lag.median_ms !== null"
          >{{ $t('relay.relay.today_half_were_in_the') }} <b>{{ spanOf(relay.lag.median_ms) }}</b>{{
            $t('relay.relay.nearly_all_within')
          }}
          <b>{{ spanOf(relay.lag.most_ms) }}</b></span
        >
        <span v-if="relay.oldest" class="old">{{
          $t('relay.relay.oldest_waiting_since', {
            learner: relay.oldest.learner,
            item: relay.oldest.item,
            since: inZone(relay.oldest.since, zone),
          })
        }}</span>
        <span class="push row"
          ><div class="field">
            <span>{{ $t('relay.relay.last') }}</span>
            <ChooseOne
              v-model:value="hours"
              :label="$t('relay.relay.last')"
              :options="[
                { value: 6, label: $t('relay.relay.6_hours') },
                { value: 24, label: $t('relay.relay.day') },
                { value: 168, label: $t('relay.relay.week') },
                { value: 1440, label: $t('relay.relay.60_days') },
              ]"
            /></div
        ></span>
      </div>
      <RelayChart v-if="chart?.buckets.length" :chart="chart" :zone="zone" />
      <p v-else class="soft">{{ $t('relay.relay.nothing_came_or_went_in') }}</p>
    </section>
    <RulesPanel :pairing="id" :may-change="about?.may_change ?? false" />
    <SourcesPanel
      :pairing="id"
      :setting="relay.setting"
      :zone="zone"
      :may-change="about?.may_change ?? false"
    />
    <div v-if="relay.on && about?.may_change && relay.received" class="row again">
      <NButton size="small" :loading="compare.isPending.value" @click="compare.mutate()">{{
        $t('relay.relay.compare_with_the_gradebook')
      }}</NButton>
      <template v-if="compare.data.value">
        <span
          ><b>{{ compare.data.value.same }}</b> {{ $t('relay.relay.stand_there_as_they_should') }}
          <b>{{ compare.data.value.differ }}</b>
          {{
            $t('relay.relay.do_not', {
              read: compare.data.value.unread
                ? $t('relay.relay.could_not_be_read', { unread: compare.data.value.unread })
                : '',
            })
          }}<template v-if="compare.data.value.newer">
            {{
              $t('relay.relay.the_publisher_holds_that_it', {
                score: $t('count.newer_scores', compare.data.value.newer),
              })
            }}</template
          ><template v-if="compare.data.value.publisher_trouble">
            {{
              $t('relay.relay.the_publisher_could_not_be', {
                publisher_trouble: compare.data.value.publisher_trouble,
              })
            }}</template
          ></span
        >
        <NButton
          v-if="!compare.data.value.differ && compare.data.value.newer"
          size="small"
          type="primary"
          :loading="again.isPending.value"
          @click="again.mutate(false)"
          >{{
            $t('relay.relay.take_and_send', {
              score: $t('count.newer_scores', compare.data.value.newer),
            })
          }}</NButton
        >
        <NButton
          v-if="compare.data.value.differ"
          size="small"
          type="primary"
          :loading="again.isPending.value"
          @click="again.mutate(false)"
          >{{ $t('relay.relay.send_these_again', { differ: compare.data.value.differ }) }}</NButton
        >
        <NButton
          v-if="compare.data.value.differ"
          size="small"
          quaternary
          @click="again.mutate(true)"
          >{{ $t('relay.relay.send_all_by_force_over') }}</NButton
        >
      </template>
      <span v-else class="soft">{{ $t('relay.relay.says_how_many_differ_before') }}</span>
    </div>
    <ScoreStream :pairing="id" :counts="relay.counts" :zone="zone" />
  </template>
</template>

<style scoped>
.field {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
.field :deep(.n-select) {
  width: 7.5rem;
}
.verdict {
  background: var(--both-wash);
  border-radius: 12px;
  padding: 0.6rem 1rem;
  margin-bottom: 0.8rem;
  flex-wrap: nowrap;
}
.verdict.trouble,
.verdict.off {
  background: var(--alarm-wash);
}
.verdict :deep(.n-button--default-type) {
  background: var(--sheet);
}
.said {
  font-size: 1.02rem;
}
.said strong {
  font-size: 1.15rem;
}
.flow {
  margin-bottom: 0.8rem;
}
.facts {
  gap: 1.3rem;
  margin-bottom: 0.5rem;
}
.old {
  color: var(--left);
}
.again {
  margin: 0.8rem 0;
}
@media (max-width: 760px) {
  .verdict {
    flex-wrap: wrap;
  }
}
</style>
