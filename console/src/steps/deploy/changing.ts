import type { Schemas } from '@/api/client'
import { inZone } from '@/logic/dates'
import { stateName } from '@/logic/states'
import { t } from '@/words'

/** What becomes of placed links, all of them alike; `value` is a date, a pattern, a folder or a category. */
export interface Change {
  way: 'hide' | 'show' | 'from' | 'rename' | 'move' | 'category'
  value: string
}

/** Return the sheet that says no more than one change. */
export function sheetOfChange(change: Change): Record<string, unknown> {
  const updated = { update: true, undated: 'column' }
  switch (change.way) {
    case 'hide':
      return { ...updated, visible: false, applies: ['visible'] }
    case 'show':
      return { ...updated, visible: true, shown_from: '', applies: ['visible', 'shown_from'] }
    case 'from':
      return {
        ...updated,
        visible: true,
        shown_from: change.value,
        applies: ['visible', 'shown_from'],
      }
    case 'rename':
      return { ...updated, pattern: change.value }
    case 'move':
      return { move: true, undated: 'column', folder: change.value }
    case 'category':
      return { ...updated, category: change.value }
  }
}

const DATES = ['due_at', 'shown_from']

/** Say in words what of one link changes. */
export function sentencesOf(row: Schemas['Row'], zone: string): string {
  const said = row.differences.map((each) => {
    const [before, after] = [each.before, each.after].map((text) =>
      each.field === 'visible'
        ? text === 'yes'
          ? t('field.shown')
          : t('field.hidden')
        : DATES.includes(each.field)
          ? inZone(text, zone) || t('field.none')
          : text || t('field.none'),
    )
    const name = each.field === 'visible' ? '' : `${stateName('field', each.field)} `
    return `${name}${before} → ${after}`
  })
  return `${row.target.title}: ${said.join('; ')}`
}
