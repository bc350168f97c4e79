import { onScopeDispose, ref } from 'vue'
import { isNavigationFailure, NavigationFailureType, useRouter } from 'vue-router'

/**
 * Whether another page is on its way, and the address of one whose script could not be had: the service
 * can't be reached, or it was brought up to a newer version while this one was open. A page of that
 * version comes with a whole load only.
 */
export function useGoing() {
  const router = useRouter()
  const going = ref(!router.currentRoute.value.matched.length)
  const notLoaded = ref('')
  onScopeDispose(
    router.beforeEach(() => {
      going.value = true
      notLoaded.value = ''
    }),
  )
  onScopeDispose(
    router.afterEach((_, __, failure) => {
      // Of two that were asked for, the later one is still on its way.
      if (!isNavigationFailure(failure, NavigationFailureType.cancelled)) going.value = false
    }),
  )
  onScopeDispose(
    router.onError((_, to) => {
      going.value = false
      notLoaded.value = router.resolve(to).href
    }),
  )
  return { going, notLoaded }
}
