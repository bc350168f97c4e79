import { nextTick, onMounted, type Ref, watch } from 'vue'

/**
 * What the library's tree does not tell assistive technology: that it is a tree, its name, and
 * which node is ahead (WAI-ARIA 1.2, 5.4; the tree view pattern with aria-activedescendant).
 */
export function useTreeAria(
  root: Ref<{ $el: HTMLElement } | undefined>,
  given: { label: () => string; id: string; many?: () => boolean; drawn: () => unknown },
) {
  const idOf = (key: string | number) => `${given.id}-${String(key).replaceAll(/\W/g, '_')}`
  /** What scrolls is the tree: it takes the focus, and its keys bubble to the library's handler. */
  const element = () => root.value?.$el.querySelector?.<HTMLElement>('.v-vl')
  /** The key of the node that the arrows are on. */
  const ahead = () =>
    element()
      ?.querySelector<HTMLElement>('.n-tree-node--pending')
      ?.closest<HTMLElement>('[data-tree-key]')?.dataset.treeKey
  function describe() {
    const tree = element()
    if (!tree) return
    root.value?.$el.removeAttribute('tabindex')
    tree.setAttribute('tabindex', '0')
    tree.setAttribute('role', 'tree')
    tree.setAttribute('aria-label', given.label())
    tree.setAttribute('aria-multiselectable', String(given.many?.() ?? false))
    const key = ahead()
    if (key) tree.setAttribute('aria-activedescendant', idOf(key))
    else tree.removeAttribute('aria-activedescendant')
  }
  const later = () => nextTick(describe)
  onMounted(later)
  watch(given.drawn, later)
  return { idOf, ahead, later }
}
