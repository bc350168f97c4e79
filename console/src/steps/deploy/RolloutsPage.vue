<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, toRef } from 'vue'
import { inZone } from '@/logic/dates'
import OperationList from '@/steps/operations/OperationList.vue'
import { pairingQuery } from '@/steps/pair/queries'
import { exportsQuery } from './queries'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data: saved } = useQuery(computed(() => exportsQuery(id.value)))
const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
</script>

<template>
  <OperationList
    :wanted="{ pairing: id, kind: 'rollout' }"
    :zone="zone"
    :may-change="about?.may_change ?? false"
    :empty="$t('deploy.rollouts.nothing_was_rolled_out_yet')"
  />
  <section v-if="saved?.length" class="sheet" aria-labelledby="saved">
    <h2 id="saved">{{ $t('deploy.rollouts.scores_of_columns_that_were') }}</h2>
    <p v-for="each in saved" :key="each.id" class="row">
      {{ each.title }}
      <span class="soft">{{ inZone(each.made_at, zone) }}</span><a
        class="push"
        :href="`/api/v1/pairings/${id}/exports/${each.id}/file`"
        :aria-label="$t('deploy.rollouts.save_the_scores_of', { title: each.title })"
        >{{ $t('deploy.rollouts.save_as_a_table') }}</a
      >
    </p>
  </section>
</template>
