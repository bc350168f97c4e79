import { type Ref, watch } from 'vue'

interface List {
  hasNextPage: Ref<boolean>
  isFetching: Ref<boolean>
  isError: Ref<boolean>
  fetchNextPage: () => unknown
}

/**
 * Read a list to its end, page after page; also one of which some pages were read when the page was left.
 * After a page that could not be read it waits until somebody tries again.
 */
export function useWhole({ hasNextPage, isFetching, isError, fetchNextPage }: List) {
  watch(
    () => hasNextPage.value && !isFetching.value && !isError.value,
    (more) => void (more && fetchNextPage()),
    { immediate: true },
  )
}
