import { useMutation, useQuery } from '@tanstack/vue-query'
import { computed, ref, type Ref } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { ENDED, useJob } from '@/parts/job'
import { useKept } from '@/parts/useKept'
import { pairingQuery } from '@/steps/pair/queries'
import { type Doing, useBringing } from './bringing'
import { importQuery, outlineQuery } from './queries'
import { t } from '@/words'

/** One import: what was read, what of it is chosen, where it goes, bringing it in and stopping that. */
export function useImporting(
  pairing: Ref<string>,
  made: Ref<string>,
  shown: Ref<Schemas['Entry'][]>,
) {
  const { data: about } = useQuery(computed(() => pairingQuery(pairing.value)))
  const zone = computed(() => about.value?.shell.timezone ?? 'UTC')
  const mayChange = computed(() => about.value?.may_change ?? false)
  const { data: imported, ...reading } = useQuery(
    computed(() => importQuery(pairing.value, made.value)),
  )
  const { data: outline } = useQuery(computed(() => outlineQuery(pairing.value)))
  const chosen = ref<string[]>([])
  const everything = () =>
    (chosen.value = shown.value
      .filter((row) => row.kind !== 'folder' && !row.blocked && row.group !== 'beside')
      .map((row) => row.id))
  const jobId = ref<string>()
  const doing = ref<Doing>('bringing')
  const DOING: Record<Doing, string> = {
    bringing: t('content.import.bringing_in'),
    writing: t('content.bringing.writing'),
    taking: t('content.import.taking_out'),
  }
  const { job, running } = useJob(jobId, pairing)
  const { job: beingRead } = useJob(
    computed(() =>
      imported.value && !ENDED.includes(imported.value.job.state)
        ? imported.value.job.id
        : undefined,
    ),
    pairing,
  )
  const questions = ref<Record<string, number[]>>({})
  const begun = (job: string, what: Doing) => {
    jobId.value = job
    doing.value = what
  }
  const {
    folder,
    treatment,
    plan,
    error: trouble,
    busy,
    bring,
    write,
    written,
  } = useBringing(pairing, made, chosen, questions, begun)
  const kept = useKept(
    `import.${made.value}`,
    () =>
      chosen.value.length
        ? { chosen: chosen.value, folder: folder.value, treatment: treatment.value }
        : undefined,
    (was) => {
      chosen.value = was.chosen
      folder.value = was.folder
      treatment.value = was.treatment
    },
  )
  const stop = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports/{id}/stop', {
          params: { path: { pairing_pk: pairing.value, id: made.value } },
        }),
      ),
  })
  return {
    ...{ about, zone, mayChange, imported, reading, beingRead, outline, chosen, everything },
    ...{ questions, folder, treatment, plan, busy, bring, write, written },
    trouble: computed(() => trouble.value ?? stop.error.value),
    ...{ job, running, doing, doingNow: computed(() => DOING[doing.value]), begun, stop, kept },
  }
}
