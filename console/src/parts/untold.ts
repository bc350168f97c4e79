import { type Query, useQueryClient } from '@tanstack/vue-query'
import { computed, nextTick, onScopeDispose, shallowReactive, shallowRef, watch } from 'vue'
import { Problem } from '@/api/client'

/** What the notes of the page tell of, each as often as it is told. */
const told = shallowReactive(new Map<Error, number>())

/** Say that a note tells of an error, as long as it does. */
export function useTelling(error: () => Error | null) {
  watch(
    error,
    (now, _, onCleanup) => {
      if (!now) return
      told.set(now, (told.get(now) ?? 0) + 1)
      onCleanup(() => {
        const left = (told.get(now) ?? 1) - 1
        if (left) told.set(now, left)
        else told.delete(now)
      })
    },
    { immediate: true },
  )
}

// Who is signed out is led to the sign-in page.
const signedOut = (error: Error) => error instanceof Problem && error.status === 401

/**
 * What a part of the page asked for and could not be given, where no note of that part tells of it: each
 * problem once, and another try of all. Else the part would look as if there were nothing.
 */
export function useUntold() {
  const client = useQueryClient()
  const cache = client.getQueryCache()
  const failed = shallowRef(new Map<Query, Error>())
  const look = () => {
    const now = new Map<Query, Error>()
    for (const each of cache.findAll({ type: 'active' })) {
      const { status, error } = each.state
      if (status === 'error' && error && !signedOut(error)) now.set(each, error)
    }
    const changed = [...now].some(([query, error]) => failed.value.get(query) !== error)
    if (changed || now.size !== failed.value.size) failed.value = now
  }
  // After the part had its turn to tell of it.
  onScopeDispose(cache.subscribe(() => void nextTick(look)))
  look()
  // What is told of one part is not told again of another.
  const heard = computed(() => new Set([...told.keys()].map((each) => each.message)))
  const untold = computed(() =>
    [...failed.value].filter(([, error]) => !heard.value.has(error.message)),
  )
  const problems = computed(() => [
    ...new Map(untold.value.map(([, error]) => [error.message, error])).values(),
  ])
  const again = () => {
    const those = new Set(untold.value.map(([query]) => query))
    return client.refetchQueries({ predicate: (each) => those.has(each) })
  }
  return { problems, again }
}
