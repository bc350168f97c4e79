<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed, toRef } from 'vue'
import { answered, api } from '@/api/client'
import { inZone } from '@/logic/dates'
import AfterReading from '@/parts/AfterReading.vue'
import OperationList from '@/steps/operations/OperationList.vue'
import { pairingQuery } from '@/steps/pair/queries'

const props = defineProps<{ pairing: string }>()
const id = toRef(props, 'pairing')
const { data: about } = useQuery(computed(() => pairingQuery(id.value)))
const { data, ...reading } = useQuery({
  queryKey: computed(() => ['pairing', id.value, 'activity']),
  queryFn: () =>
    answered(
      api.GET('/api/v1/pairings/{pairing_pk}/activity', {
        params: { path: { pairing_pk: id.value }, query: { limit: 100 } },
      }),
    ),
})
</script>

<template>
  <h2>{{ $t('activity.activity.written_to_the_shell') }}</h2>
  <OperationList
    :wanted="{ pairing: id }"
    :zone="about?.shell.timezone ?? 'UTC'"
    :may-change="about?.may_change ?? false"
    :empty="$t('activity.activity.nothing_was_written_to_the')"
  />
  <h2>{{ $t('activity.activity.who_did_what') }}</h2>
  <AfterReading
    :reading="reading"
    :what="$t('activity.activity.the_activity')"
    :none="!data?.results.length && $t('activity.activity.nothing_was_done_yet')"
    :none-means="$t('activity.activity.every_change_is_recorded_here')"
  >
    <ol v-if="data">
      <li v-for="event in data.results" :key="event.id">
        <time :datetime="event.at" class="soft">{{
          inZone(event.at, about?.shell.timezone ?? 'UTC')
        }}</time><span>{{ event.sentence }}</span
        ><span class="soft">{{ event.actor }}</span>
      </li>
    </ol>
  </AfterReading>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0;
}
li {
  display: grid;
  grid-template-columns: 9rem 1fr auto;
  gap: 1rem;
  padding: 0.45rem 0;
  border-bottom: 1px solid var(--rule);
}
@media (max-width: 640px) {
  li {
    grid-template-columns: 1fr;
    gap: 0;
  }
}
</style>
