import { useMutation, useQuery, useQueryClient } from '@tanstack/vue-query'
import type { startAuthentication, startRegistration } from '@simplewebauthn/browser'
import { computed, ref } from 'vue'
import { answered, api, Problem } from '@/api/client'
import { passkeysQuery } from './queries'
import { t } from '@/words'

type Options = Record<string, unknown>
type AskOptions = Options & Parameters<typeof startAuthentication>[0]['optionsJSON']
type MakeOptions = Options & Parameters<typeof startRegistration>[0]['optionsJSON']
type Proof = { code?: string; passkey?: Record<string, unknown> }
// The service reads the proof of a DELETE too; OpenAPI 3.0 has no place to describe such a body.
const proof = (body: Proof) => ({ body: body as never })

/** Ask one of the browser's passkeys; the library is loaded only by those who have one. */
export async function askPasskey(options: Options): Promise<Record<string, unknown>> {
  const { startAuthentication } = await import('@simplewebauthn/browser')
  return { ...(await startAuthentication({ optionsJSON: options as AskOptions })) }
}

async function makePasskey(options: Options): Promise<Record<string, unknown>> {
  const { startRegistration } = await import('@simplewebauthn/browser')
  return { ...(await startRegistration({ optionsJSON: options as MakeOptions })) }
}

/** What the browser says where its owner turned away, or has no passkey for us, in our words. */
export function inWords(error: Error | null): Error | null {
  if (error?.name === 'InvalidStateError')
    return new Problem(
      0,
      'known_passkey',
      t('connect.use_second_factor.this_device_is_one_of'),
      t('connect.use_second_factor.use_another_device_or_remove'),
    )
  if (error?.name === 'NotAllowedError' || error?.name === 'AbortError')
    return new Problem(
      0,
      'no_passkey',
      t('connect.use_second_factor.no_passkey_was_given'),
      t('connect.use_second_factor.try_it_again_or_use'),
    )
  return error
}

/** The second factor of who is signed in: an app, passkeys, recovery codes, and turning it off. */
export function useSecondFactor(isOn: () => boolean) {
  const client = useQueryClient()
  const code = ref('')
  const name = ref('')
  const recovery = ref<string[]>([])
  const passkeys = useQuery(passkeysQuery())
  const changed = () => {
    code.value = ''
    client.invalidateQueries({ queryKey: ['me'] })
  }
  /** A code that was typed, or else what a passkey answers. */
  const prove = async (): Promise<Proof> => {
    if (code.value.trim() || !isOn()) return { code: code.value.trim() }
    const made = await answered(api.POST('/api/v1/me/passkeys/options-to-prove'))
    return { passkey: await askPasskey(made.options) }
  }
  const begin = useMutation({
    mutationFn: () => answered(api.POST('/api/v1/me/second-factor')),
  })
  const confirm = useMutation({
    mutationFn: () =>
      answered(api.PUT('/api/v1/me/second-factor', { body: { code: code.value.trim() } })),
    onSuccess: (made) => {
      recovery.value = made.recovery
      begin.reset()
      changed()
    },
  })
  const add = useMutation({
    mutationFn: async () => {
      const body = await prove()
      const asked = await answered(api.POST('/api/v1/me/passkeys/options-to-add', { body }))
      const passkey = await makePasskey(asked.options)
      return answered(
        api.POST('/api/v1/me/passkeys', { body: { name: name.value.trim(), passkey } }),
      )
    },
    onSuccess: (made) => {
      if (made.recovery.length) recovery.value = made.recovery
      name.value = ''
      changed()
    },
  })
  const remove = useMutation({
    mutationFn: async (id: number) =>
      answered(
        api.DELETE('/api/v1/me/passkeys/{id}', {
          params: { path: { id } },
          ...proof(await prove()),
        }),
      ),
    onSuccess: changed,
  })
  const off = useMutation({
    mutationFn: async () => answered(api.DELETE('/api/v1/me/second-factor', proof(await prove()))),
    onSuccess: () => {
      recovery.value = []
      changed()
    },
  })
  const error = computed(() =>
    inWords(
      [begin, confirm, add, remove, off].map((each) => each.error.value).find(Boolean) ?? null,
    ),
  )
  return { code, name, recovery, passkeys, begin, confirm, add, remove, off, error }
}
