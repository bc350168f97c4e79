import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, type Ref, ref } from 'vue'
import { answered, api, shaped } from '@/api/client'
import { askAgain } from '@/parts/askAgain'
import { ENDED } from '@/parts/job'
import { usePlan } from '@/parts/usePlan'

/** What a job of an import does. */
export type Doing = 'bringing' | 'writing' | 'taking'

/** Plan what was chosen as it changes, bring it in, or write it as a file; `begun` is told of each job that starts. */
export function useBringing(
  pairing: Ref<string>,
  made: Ref<string>,
  chosen: Ref<string[]>,
  questions: Ref<Record<string, number[]>>,
  begun: (job: string, doing: Doing) => void,
) {
  const folder = ref('')
  const treatment = ref<'keep' | 'hide' | 'leave_out'>('keep')
  const path = computed(() => ({ pairing_pk: pairing.value, id: made.value }))
  const choice = computed(() => ({ entries: chosen.value, review: treatment.value }))
  const order = computed(() => ({
    ...choice.value,
    folder: folder.value,
    questions: questions.value,
  }))
  const send = (wanted: typeof order.value, dry_run: boolean) =>
    answered(
      api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/deliveries', {
        params: { path: path.value },
        body: { ...wanted, dry_run },
      }),
    )
  const planned = usePlan(
    computed(() => (chosen.value.length ? order.value : undefined)),
    async (wanted) => shaped(await send(wanted, true), 'entries'),
  )
  const bringing = useMutation({
    mutationFn: async () => shaped(await send(order.value, false), 'job'),
    onSuccess: (delivery) => {
      begun(delivery.job.id, 'bringing')
      chosen.value = []
    },
  })
  const writingId = ref('')
  const writing = useMutation({
    mutationFn: (profile: 'full' | 'thin') =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/written', {
          params: { path: path.value },
          body: { ...choice.value, profile },
        }),
      ),
    onSuccess: (file) => {
      writingId.value = file.id
      begun(file.job.id, 'writing')
    },
  })
  const { data: files } = useQuery({
    queryKey: computed(() => [
      'pairing',
      pairing.value,
      'import',
      made.value,
      'written',
      writingId.value,
    ]),
    queryFn: () =>
      answered(
        api.GET('/api/v1/pairings/{pairing_pk}/imports/{id}/written', {
          params: { path: path.value },
        }),
      ),
    enabled: computed(() => writingId.value !== ''),
    refetchInterval: ({ state }) => {
      const file = state.data?.find((each) => each.id === writingId.value)
      const ended = file && (file.package || ENDED.includes(file.job.state))
      return askAgain(600, !ended, state.error)
    },
  })
  const written = computed(() => {
    const file = files.value?.find((each) => each.id === writingId.value)
    return file?.package
      ? {
          name: file.filename,
          href: `/api/v1/pairings/${pairing.value}/packages/${file.package}/content`,
        }
      : undefined
  })
  return {
    folder,
    treatment,
    plan: planned.plan,
    error: computed(() => bringing.error.value ?? writing.error.value ?? planned.error.value),
    busy: bringing.isPending,
    bring: () => bringing.mutate(),
    write: (profile: 'full' | 'thin') => writing.mutate(profile),
    written,
  }
}
