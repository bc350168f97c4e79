import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, type Ref, ref, watch } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { t } from '@/words'
import { previewQuery } from './queries'

/** One entry of a package: what it shows, its name in the shell, and the graded item that it is. */
export function useEntry(
  pairing: Ref<string>,
  made: Ref<string>,
  entry: Ref<Schemas['Entry']>,
  graded: Ref<Schemas['Item'][]>,
) {
  const client = useQueryClient()
  const { data: seen, ...reading } = useQuery(
    computed(() => previewQuery(pairing.value, made.value, entry.value.id)),
  )
  const name = ref('')
  watch(
    [() => entry.value.id, () => entry.value.shown_title],
    () => (name.value = entry.value.shown_title),
    { immediate: true },
  )
  const path = computed(() => ({ pairing_pk: pairing.value, import_pk: made.value }))
  const again = () => client.invalidateQueries({ queryKey: ['pairing', pairing.value] })
  const rename = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/rename', {
          params: { path: path.value },
          body: { names: { [entry.value.id]: name.value.trim() } },
        }),
      ),
    onSuccess: again,
  })
  const match = useMutation({
    mutationFn: (item: string) =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/match', {
          params: { path: { ...path.value, id: entry.value.id } },
          body: { item: item === 'none' ? null : item },
        }),
      ),
    onSuccess: again,
  })
  const choices = computed(() => [
    { label: t('content.entry_preview.no_graded_item'), value: 'none' },
    ...graded.value.map((item) => ({
      label: t('content.entry_preview.points_2', {
        shown_title: item.shown_title,
        points: t('count.points', Number(item.points ?? 0)),
      }),
      value: item.id,
    })),
  ])
  const matched = computed(
    () => graded.value.find((item) => item.line_item === entry.value.line_item)?.id ?? 'none',
  )
  return { seen, reading, name, rename, match, choices, matched }
}
