import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { answered, api, Problem } from '@/api/client'
import { waysQuery } from './queries'
import { askPasskey } from './useSecondFactor'

/** The options of a passkey, where a problem carries them. */
const optionsOf = (fact: unknown): Record<string, unknown> | undefined =>
  typeof fact === 'object' && fact !== null ? { ...fact } : undefined

/** Signing in with a password and what the service asks beside it: a code, or a passkey. */
export function useSignIn() {
  const route = useRoute()
  const router = useRouter()
  const client = useQueryClient()
  const username = ref('')
  const password = ref('')
  const code = ref('')
  const { data: ways } = useQuery(waysQuery())

  const signIn = useMutation({
    mutationFn: (passkey?: Record<string, unknown>) =>
      answered(
        api.POST('/api/v1/sign-in', {
          body: {
            username: username.value,
            password: password.value,
            code: passkey ? '' : code.value,
            session: true,
            ...(passkey ? { passkey } : {}),
          },
        }),
      ),
    onSuccess: async () => {
      await client.resetQueries()
      const next =
        typeof route.query.next === 'string' &&
        route.query.next.startsWith('/') &&
        !route.query.next.startsWith('//')
          ? route.query.next
          : '/'
      await router.replace(next)
    },
  })
  /** Answer the service's challenge with a passkey of this browser, and sign in. */
  const byPasskey = useMutation({
    mutationFn: async () => signIn.mutateAsync(await askPasskey(challenge.value ?? {})),
  })
  const challenge = computed(() =>
    signIn.error.value instanceof Problem ? optionsOf(signIn.error.value.facts.passkey) : undefined,
  )
  const said = computed(() =>
    signIn.error.value instanceof Problem ? signIn.error.value.code : '',
  )
  const asksForCode = computed(() => said.value === 'code_needed')
  const needsCode = computed(
    () => asksForCode.value || said.value === 'wrong_code' || code.value !== '',
  )
  return {
    ways,
    username,
    password,
    code,
    signIn,
    byPasskey,
    challenge,
    asksForCode,
    needsCode,
  }
}
