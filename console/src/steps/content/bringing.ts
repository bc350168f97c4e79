import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, type Ref, ref, watch } from 'vue'
import { answered, api, type Schemas, shaped } from '@/api/client'

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
  const plan = ref<Schemas['DeliveryPlan']>()
  const path = computed(() => ({ pairing_pk: pairing.value, id: made.value }))
  const choice = computed(() => ({ entries: chosen.value, review: treatment.value }))
  const order = computed(() => ({
    ...choice.value,
    folder: folder.value,
    questions: questions.value,
  }))
  const look = useMutation({
    mutationFn: async () =>
      shaped(
        await answered(
          api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/deliveries', {
            params: { path: path.value },
            body: { ...order.value, dry_run: true },
          }),
        ),
        'entries',
      ),
    onSuccess: (planned) => (plan.value = planned),
  })
  let waiting: ReturnType<typeof setTimeout> | undefined
  watch(order, (now) => {
    clearTimeout(waiting)
    plan.value = undefined
    if (now.entries.length) waiting = setTimeout(() => look.mutate(), 300)
  })
  const bringing = useMutation({
    mutationFn: async () =>
      shaped(
        await answered(
          api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/deliveries', {
            params: { path: path.value },
            body: { ...order.value, dry_run: false },
          }),
        ),
        'job',
      ),
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
    refetchInterval: (query) =>
      query.state.data?.find((each) => each.id === writingId.value)?.package ? false : 600,
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
    plan,
    error: computed(() => bringing.error.value ?? writing.error.value ?? look.error.value),
    busy: bringing.isPending,
    bring: () => bringing.mutate(),
    write: (profile: 'full' | 'thin') => writing.mutate(profile),
    written,
  }
}
