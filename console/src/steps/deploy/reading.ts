import { onScopeDispose, reactive, type Ref, watch } from 'vue'
import { answered, api, type Schemas } from '@/api/client'
import { ENDED } from '@/parts/job'
import { t } from '@/words'

const PAUSE = 500

/** What is known of the reading of one section's homework course. */
export interface Reading {
  words: string
  failed: boolean
}

/**
 * Read the homework courses of sections of which nothing is known yet, each once; that changes nothing on
 * either side. `again` plans once more. What is being read when the page is left goes on without it.
 */
export function useFirstReading(plans: Ref<Schemas['Plan'][] | undefined>, again: () => void) {
  const readings = reactive(new Map<string, Reading>())
  let left = false
  onScopeDispose(() => (left = true))
  watch(plans, (now) =>
    now
      ?.filter((plan) => plan.unread && !readings.has(plan.pairing))
      .forEach((plan) => void read(plan.pairing)),
  )

  async function read(pairing: string) {
    readings.set(pairing, {
      words: t('deploy.reading.reading_its_homework_course_first'),
      failed: false,
    })
    try {
      const made = await answered(
        api.POST('/api/v1/pairings/{pairing_pk}/imports', {
          params: { path: { pairing_pk: pairing } },
          body: { source: 'publisher' },
        }),
      )
      const job = await ended(made.job.id)
      if (!job) return
      readings.set(pairing, {
        words:
          job.state === 'done'
            ? ''
            : t('deploy.reading.its_homework_course_could_not', {
                message: job.message,
                remedy: job.remedy,
              }),
        failed: job.state !== 'done',
      })
    } catch (error) {
      readings.set(pairing, {
        words: t('deploy.reading.its_homework_course_could_not_2', {
          message: (error as Error).message,
        }),
        failed: true,
      })
    }
    again()
  }

  /** Follow a job to its end; nothing where the page was left before. */
  async function ended(id: string): Promise<Schemas['Job'] | undefined> {
    while (!left) {
      const job = await answered(api.GET('/api/v1/jobs/{id}', { params: { path: { id } } }))
      if (ENDED.includes(job.state)) return job
      await new Promise((resolve) => setTimeout(resolve, PAUSE))
    }
  }

  return readings
}
