import { useMutation } from '@tanstack/vue-query'
import { onScopeDispose, type Ref, shallowRef, watch } from 'vue'

const PAUSE_MS = 250 // after a change, before it is asked what would come of it

/**
 * What would come of what is chosen, asked again a moment after each change. It is there only while
 * it belongs to what is chosen now: an answer that comes late, to an earlier choice, is dropped.
 */
export function usePlan<Body extends object, Plan>(
  /** What is chosen, another object after each change; nothing where there is nothing to ask. */
  body: Ref<Body | undefined>,
  ask: (body: Body) => Promise<Plan>,
) {
  const plan = shallowRef<Plan>()
  const asking = useMutation({
    mutationFn: ask,
    onSuccess: (made, asked) => {
      if (asked === body.value) plan.value = made
    },
  })
  const again = () => {
    if (body.value) asking.mutate(body.value)
  }
  let waiting: ReturnType<typeof setTimeout> | undefined
  watch(
    body,
    (now) => {
      clearTimeout(waiting)
      plan.value = undefined
      asking.reset()
      if (now) waiting = setTimeout(again, PAUSE_MS)
    },
    { immediate: true },
  )
  onScopeDispose(() => clearTimeout(waiting))
  return { plan, error: asking.error, pending: asking.isPending, again }
}
