import { useDialog } from 'naive-ui/es/dialog'
import { t } from '@/words'

export interface Question {
  title: string
  content: string
  /** What the button says that does it: the deed, as an imperative. */
  doIt: string
  keep?: string
  danger?: boolean
}

/** Ask before a deed, in a dialog that holds the focus and gives it back. */
export function useConfirm() {
  const dialog = useDialog()
  return (question: Question): Promise<boolean> =>
    new Promise((resolve) => {
      const ask = question.danger ? dialog.error : dialog.info
      ask({
        title: question.title,
        content: question.content,
        positiveText: question.doIt,
        negativeText: question.keep ?? t('common.cancel'),
        showIcon: false,
        autoFocus: true,
        onPositiveClick: () => resolve(true),
        onNegativeClick: () => resolve(false),
        onClose: () => resolve(false),
        onEsc: () => resolve(false),
        onMaskClick: () => resolve(false),
      })
    })
}
