<script setup lang="ts">
import { useQuery } from '@tanstack/vue-query'
import { computed } from 'vue'
import EmptyNote from '@/parts/EmptyNote.vue'
import LoadingNote from '@/parts/LoadingNote.vue'
import ProblemNote from '@/parts/ProblemNote.vue'
import { operationsQuery, type Wanted } from './operations'
import OperationRow from './OperationRow.vue'

const props = defineProps<{
  wanted: Wanted
  zone: string
  named?: boolean
  mayChange: boolean
  empty: string
}>()
const { data, error, isPending, refetch } = useQuery(computed(() => operationsQuery(props.wanted)))
</script>

<template>
  <LoadingNote v-if="isPending" :what="$t('operations.operation_list.what_was_written')" />
  <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
  <EmptyNote v-else-if="!data?.results.length" :title="empty"
    ><p>
      {{ $t('operations.operation_list.each_rollout_import_and_settlement') }}
    </p></EmptyNote
  >
  <template v-else>
    <ul>
      <OperationRow
        v-for="row in data.results"
        :key="row.id"
        :operation="row"
        :zone="zone"
        :named="named"
        :may-change="mayChange"
      />
    </ul>
    <p v-if="data.next" class="soft">
      {{ $t('operations.operation_list.the_newest_100_are_shown') }}
    </p>
  </template>
</template>

<style scoped>
ul {
  list-style: none;
  padding: 0;
  margin: 0;
}
</style>
