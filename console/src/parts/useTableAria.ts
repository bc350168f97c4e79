import { nextTick, onMounted, type Ref, watch } from 'vue'
import type { Order } from './listTable'

const SAID = { false: 'none', ascend: 'ascending', descend: 'descending' }

/** What the library's table does not tell assistive technology: what it is of, and its order. */
export function useTableAria(
  root: Ref<{ $el: HTMLElement } | undefined>,
  given: {
    label: () => string
    columns: () => readonly { key: string; by?: unknown }[]
    sorted: () => { key: string; order: Order }
    drawn: () => unknown
  },
) {
  function describe() {
    const element = root.value?.$el as HTMLElement | undefined
    element
      ?.querySelectorAll('table')
      .forEach((each) => each.setAttribute('aria-label', given.label()))
    const { key, order } = given.sorted()
    for (const column of given.columns()) {
      const way = column.key === key ? String(order) : 'false'
      const heads = element?.querySelectorAll(`th[data-col-key="${CSS.escape(column.key)}"]`) ?? []
      heads.forEach((head) => {
        head.setAttribute('scope', 'col')
        if (column.by) head.setAttribute('aria-sort', SAID[way as keyof typeof SAID])
      })
    }
  }
  onMounted(describe)
  watch([given.sorted, given.drawn, given.label], () => nextTick(describe))
}
