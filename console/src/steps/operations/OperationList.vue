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
  <LoadingNote v-if="isPending" what="what was written" />
  <ProblemNote v-else-if="error" :error="error" @again="refetch()" />
  <EmptyNote v-else-if="!data?.results.length" :title="empty"
    ><p>
      Each rollout, import and settlement is kept here with every step, to look at, to go on with,
      or to undo.
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
      The newest 100 are shown. All of them: vennpair operations list --limit 1000
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
