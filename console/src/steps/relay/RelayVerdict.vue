<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { RouterLink, useRoute, useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import RelayPulse from '@/figures/RelayPulse.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useRelay } from './useRelay'

/** How the relay is, in one sentence, with the button that helps. */
const props = defineProps<{ pairing: string; relay: Schemas['Relay']; mayChange: boolean }>()
const { turn, release } = useRelay(() => props.pairing)
const route = useRoute()
const router = useRouter()
const heldFor = (...names: string[]) =>
  Object.entries(props.relay.held ?? {})
    .filter(([why]) => names.includes(why))
    .reduce((sum, [, count]) => sum + count, 0)
const byHand = computed(() => heldFor('hand', 'late', 'no_due'))
const byTime = computed(() => heldFor('due', 'daily'))
const seeTrouble = () =>
  router.replace({
    query: { ...route.query, state: props.relay.counts.refused ? 'refused' : 'clash' },
  })
</script>

<template>
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
        @click="router.push({ name: 'reconcile', params: { pairing } })"
        >{{ $t('relay.relay.see_them') }}</NButton
      >
      <RouterLink
        v-if="relay.verdict.act === 'match'"
        :to="{ name: 'pair', params: { pairing } }"
        >{{ $t('relay.relay.say_who_they_are') }}</RouterLink
      >
      <NButton
        v-if="byHand && relay.on && mayChange"
        :type="relay.verdict.act === 'release' ? 'primary' : 'default'"
        :loading="release.isPending.value"
        @click="release.mutate(false)"
        >{{ $t('relay.relay.release_held', { by_hand: byHand }) }}</NButton
      >
      <NButton
        v-if="byTime && relay.on && mayChange"
        quaternary
        :loading="release.isPending.value"
        @click="release.mutate(true)"
        >{{ $t('relay.relay.release_early', { by_hand: byTime + byHand }) }}</NButton
      >
      <NButton
        v-if="mayChange"
        :type="relay.on ? 'default' : 'primary'"
        :loading="turn.isPending.value"
        @click="turn.mutate(!relay.on)"
        >{{
          relay.on ? $t('relay.relay.turn_the_relay_off') : $t('relay.relay.turn_the_relay_on')
        }}</NButton
      >
    </div>
  </section>
  <ProblemNote :error="turn.error.value ?? release.error.value" />
</template>

<style scoped>
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
@media (max-width: 760px) {
  .verdict {
    flex-wrap: wrap;
  }
}
</style>
