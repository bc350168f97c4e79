import { type Ref, ref, watch } from 'vue'

const read = (key: string): unknown => {
  try {
    return JSON.parse(sessionStorage.getItem(key) ?? 'null')
  } catch {
    return null // another site's frame may keep nothing for us, or somebody wrote nonsense there
  }
}
const write = (key: string, what: unknown) => {
  try {
    if (what === undefined) sessionStorage.removeItem(key)
    else sessionStorage.setItem(key, JSON.stringify(what))
  } catch {
    // Then it is chosen again after the page was left.
  }
}

/**
 * Keep in this tab what somebody has chosen and not done yet, so that looking at another page loses
 * nothing. `what` gives it, undefined where there is nothing to keep; `put` puts it back. Returns
 * whether something was put back.
 */
export function useKept<T>(
  name: string,
  what: () => T | undefined,
  put: (kept: T) => void,
): Ref<boolean> {
  const key = `vennpair.chosen.${name}`
  const kept = read(key) as T | null
  const found = ref(false)
  if (kept) {
    put(kept)
    found.value = true
  }
  watch(
    what,
    (now) => {
      write(key, now)
      if (now === undefined) found.value = false
    },
    { deep: true },
  )
  return found
}
