<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, toRef } from 'vue'
import AfterReading from '@/parts/AfterReading.vue'
import { pairingQuery } from '@/steps/pair/queries'
import { relayQuery } from './queries'
import RelayFlow from './RelayFlow.vue'
import RelayVerdict from './RelayVerdict.vue'
import RulesPanel from './RulesPanel.vue'
import ScoreStream from './ScoreStream.vue'
import SendAgain from './SendAgain.vue'
import SourcesPanel from './SourcesPanel.vue'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
const mayChange = computed(() => about.value?.may_change ?? false)
const { data: relay, ...reading } = useQuery(computed(() => relayQuery(id.value)))
</script>

<template>
  <AfterReading :reading="reading" :what="$t('relay.relay.the_relay')">
    <template v-if="relay">
      <RelayVerdict :pairing="id" :relay="relay" :may-change="mayChange" />
      <RelayFlow :pairing="id" :relay="relay" :zone="zone" />
      <RulesPanel :pairing="id" :may-change="mayChange" />
      <SourcesPanel :pairing="id" :setting="relay.setting" :zone="zone" :may-change="mayChange" />
      <SendAgain v-if="relay.on && mayChange && relay.received" :pairing="id" />
      <ScoreStream :pairing="id" :counts="relay.counts" :zone="zone" />
    </template>
  </AfterReading>
</template>
