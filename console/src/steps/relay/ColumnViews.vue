<script setup lang="ts">
import { useMutation } from '@tanstack/vue-query'
import { NButton } from 'naive-ui/es/button'
import { computed } from 'vue'
import { answered, api } from '@/api/client'
import ProblemNote from '@/parts/ProblemNote.vue'
import { t } from '@/words'

/** Whether learners see the columns of this pairing in the gradebook, all of them together. */
const props = defineProps<{ pairing: string }>()
const show = useMutation({
  mutationFn: (shown: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/column-views', {
        params: { path: { pairing_pk: props.pairing } },
        body: { placements: [], shown },
      }),
    ),
})
const turned = computed(() => {
  const rows = show.data.value ?? []
  const count = (result: string) => rows.filter((row) => row.result === result).length
  if (!rows.length) return ''
  return [
    count('done')
      ? `${count('done')} ${show.variables.value ? t('relay.sources.shown_to_learners') : t('relay.sources.kept_from_learners')}`
      : '',
    count('unknown')
      ? t('relay.sources.the_platform_shows_or_keeps', { unknown: count('unknown') })
      : '',
    count('failed')
      ? t('relay.sources.could_not_be_turned', {
          failed: count('failed'),
          reason: rows.find((row) => row.result === 'failed')!.reason,
        })
      : '',
  ]
    .filter(Boolean)
    .join('; ')
})
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
