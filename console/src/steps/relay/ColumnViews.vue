<script setup lang="ts">
import { NButton } from 'naive-ui/es/button'
import ProblemNote from '@/parts/ProblemNote.vue'
import { useColumnViews } from './useColumnViews'

/** Whether learners see the columns of this pairing in the gradebook, all of them together. */
const props = defineProps<{ pairing: string }>()
const { show, turned } = useColumnViews(() => props.pairing)
</script>

<template>
  <div class="row">
    <span>{{ $t('relay.sources.columns_and_learners') }}</span>
    <NButton size="small" :loading="show.isPending.value" @click="show.mutate(true)">{{
      $t('relay.sources.show_all_columns_to_learners')
    }}</NButton>
    <NButton size="small" :loading="show.isPending.value" @click="show.mutate(false)">{{
      $t('relay.sources.keep_all_from_learners')
    }}</NButton>
    <span role="status" class="soft">{{ turned }}</span>
  </div>
  <ProblemNote :error="show.error.value" />
</template>
