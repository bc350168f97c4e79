import { useMutation } from '@tanstack/vue-query'
import { computed } from 'vue'
import { answered, api } from '@/api/client'
import { t } from '@/words'

/** Showing the columns to learners or keeping them back, and what came of it in words. */
export function useColumnViews(pairing: () => string) {
  const show = useMutation({
    mutationFn: (shown: boolean) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/column-views', {
          params: { path: { pairing_pk: pairing() } },
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
  return { show, turned }
}
