import { useInfiniteQuery, useMutation, useQuery } from '@tanstack/vue-query'
import { computed, reactive, ref } from 'vue'
import { answered, api, shaped } from '@/api/client'
import { usePlan } from '@/parts/usePlan'
import { useWhole } from '@/parts/useWhole'
import { itemsQuery } from '@/steps/content/queries'
import { pairingQuery } from '@/steps/pair/queries'
import { t } from '@/words'
import { HOW, type How, sheetOf } from './sheet'
import { type Wishes, wishesOf } from './wishes'

/** What a platform asked for: the items to choose from, what would be given to it, giving it. */
export function usePicking(picking: string) {
  const { data: asked, ...reading } = useQuery({
    queryKey: ['picking', picking],
    queryFn: () =>
      answered(api.GET('/api/v1/pickings/{id}', { params: { path: { id: picking } } })),
  })
  const pairing = computed(() => asked.value?.pairing ?? '')
  const { data: about } = useQuery(
    computed(() => ({ ...pairingQuery(pairing.value), enabled: pairing.value !== '' })),
  )
  const items = useInfiniteQuery(
    computed(() => ({ ...itemsQuery(pairing.value, {}), enabled: pairing.value !== '' })),
  )
  useWhole(items)
  const rows = computed(() => items.data.value?.pages.flatMap((page) => page.results) ?? [])
  const chosen = ref<string[]>([])
  const how = reactive<How>({ ...HOW })
  const wishes = ref<Wishes>({})
  const body = computed(() => ({
    items: chosen.value,
    ...sheetOf(how),
    wishes: wishesOf(wishes.value, chosen.value),
  }))
  const send = (wanted: typeof body.value, dry_run: boolean) =>
    answered(
      api.POST('/api/v1/pickings/{id}/answer', {
        params: { path: { id: picking } },
        body: { ...wanted, dry_run },
      }),
    )
  const { plan, error: hindered } = usePlan(
    computed(() => (chosen.value.length ? body.value : undefined)),
    async (wanted) => shaped(await send(wanted, true), 'rows'),
  )
  /** Post the signed answer to the platform, from this window: its dialogue closes automatically. */
  const give = useMutation({
    mutationFn: async () => shaped(await send(body.value, false), 'token'),
    onSuccess: ({ url, token }) => {
      const form = Object.assign(document.createElement('form'), { method: 'post', action: url })
      form.append(
        Object.assign(document.createElement('input'), {
          type: 'hidden',
          name: 'JWT',
          value: token,
        }),
      )
      document.body.append(form)
      form.submit()
    },
  })
  const given = computed(() => plan.value?.rows.filter((row) => row.action === 'make') ?? [])
  const sentence = computed(() => {
    if (!chosen.value.length)
      return asked.value?.multiple
        ? t('deploy.pick.choose_what_the_course_should')
        : t('deploy.pick.choose_one_item_the_platform')
    if (!plan.value) return t('deploy.pick.working_out_what_will_happen')
    return t('deploy.pick.will_give_to', {
      link: t('count.links', given.value.length),
      course: asked.value?.shell || t('deploy.pick.the_course'),
      here: asked.value?.columns
        ? t('deploy.pick.with_a_column', { columns: plan.value.columns })
        : t('deploy.pick.without_columns_the_platform_takes'),
    })
  })
  return {
    ...{ asked, about, pairing, reading, items, rows, chosen, how, wishes },
    ...{ plan, hindered, give, given, sentence },
  }
}
