import type { Schemas } from '@/api/client'
import type { Column } from '@/parts/listTable'
import { t } from '@/words'
import { age, days, share } from './useAgreement'

/** What is listed of each pairing: how far it agrees, what is open, for how long. */
export const agreementColumns = (): Column<Schemas['Agreement']>[] => [
  { key: 'shell', title: t('common.shell'), by: (row) => row.shell, heading: true, minWidth: 220 },
  { key: 'agreement', title: t('frame.agreement'), by: (row) => share(row), width: 150 },
  {
    key: 'open',
    title: t('reconcile.agreement.open_2'),
    text: (row) => String(row.urgent),
    by: (row) => row.urgent,
    number: true,
    width: 80,
  },
  { key: 'causes', title: t('reconcile.agreement.by_cause'), minWidth: 200 },
  {
    key: 'oldest',
    title: t('reconcile.agreement.oldest'),
    text: (row) => age(row.oldest),
    by: (row) => days(row.oldest),
    width: 120,
  },
  { key: 'compared', title: t('reconcile.agreement.compared'), by: (row) => row.at, width: 130 },
]
