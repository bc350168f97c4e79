import { Problem } from '@/api/client'
import { t } from '@/words'

/** What went wrong and what to do, in words: the service's own, else that it was not reached. */
export const problemWords = (error: Error | null) =>
  error instanceof Problem
    ? { what: error.message, remedy: error.remedy }
    : { what: t('problem.unreachable'), remedy: t('problem.check_connection') }
