<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import { operationsQuery, type Wanted } from './operations'
import AfterReading from '@/parts/AfterReading.vue'
import OperationRow from './OperationRow.vue'

const props = defineProps<{
  wanted: Wanted
  zone: string
  named?: boolean
  mayChange: boolean
  empty: string
}>()
const { data, ...reading } = useQuery(computed(() => operationsQuery(props.wanted)))
</script>

<template>
  <AfterReading
    :reading="reading"
    :what="$t('operations.operation_list.what_was_written')"
    :none="!data?.results.length && empty"
    :none-means="$t('operations.operation_list.each_rollout_import_and_settlement')"
  >
    <ul v-if="data">
      <OperationRow
        v-for="row in data.results"
        :key="row.id"
        :operation="row"
        :zone="zone"
        :named="named"
        :may-change="mayChange"
      />
    </ul>
    <p v-if="data?.next" class="soft">
      {{ $t('operations.operation_list.the_newest_100_are_shown') }}
    </p>
  </AfterReading>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
</style>
