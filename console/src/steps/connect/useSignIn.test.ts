import { startAuthentication } from '@simplewebauthn/browser'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { createMemoryHistory, createRouter } from 'vue-router'
import { api } from '@/api/client'
import { service, used } from '@/parts/forTests'
import { useSignIn } from './useSignIn'

vi.mock('@simplewebauthn/browser', () => ({ startAuthentication: vi.fn() }))

const SIGN_IN = 'POST /api/v1/sign-in'
const page = { render: () => null }

async function signingIn(address: string, answers: Parameters<typeof service>[0] = {}) {
  const asked = service({ 'GET /api/v1/sign-in/ways': () => ({}), ...answers })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)*', component: page }],
  })
  await router.push(address)
  return { asked, router, ...used(() => useSignIn(), router) }
}

/** The service refuses as it does, with facts beside the words. */
const refused = (code: string, facts: object = {}) =>
  vi.spyOn(api, 'POST').mockResolvedValueOnce({
    error: { code, detail: 'No.', remedy: 'Try again.', ...facts },
    response: new Response('', { status: 401 }),
  } as never)

describe('signing in', () => {
  afterEach(() => vi.restoreAllMocks())

  it.each([
    ['/sign-in?next=/pairings/p1/relay%3Fstate=failed', '/pairings/p1/relay?state=failed'],
    ['/sign-in', '/'],
    ['/sign-in?next=https://other.example/', '/'],
    ['/sign-in?next=//other.example/', '/'],
    ['/sign-in?next=/a&next=/b', '/'],
  ])('at %s leads to %s', async (address, there) => {
    const { asked, router, username, password, signIn, leave } = await signingIn(address, {
      [SIGN_IN]: () => ({}),
    })
    username.value = 'maren.holt@tarnfield.example'
    password.value = 'rivers'
    await signIn.mutateAsync(undefined)
    expect(router.currentRoute.value.fullPath).toBe(there)
    expect(asked.find((each) => each.call === SIGN_IN)?.body).toEqual({
      username: 'maren.holt@tarnfield.example',
      password: 'rivers',
      code: '',
      session: true,
    })
    leave()
  })

  it('asks for a code where the service does, and again where it is wrong', async () => {
    const { signIn, code, asksForCode, needsCode, leave } = await signingIn('/sign-in')
    expect(needsCode.value).toBe(false)
    refused('code_needed')
    await expect(signIn.mutateAsync(undefined)).rejects.toThrow('No.')
    expect([asksForCode.value, needsCode.value]).toEqual([true, true])
    code.value = '123456'
    refused('wrong_code')
    await expect(signIn.mutateAsync(undefined)).rejects.toThrow('No.')
    expect([asksForCode.value, needsCode.value]).toEqual([false, true])
    leave()
  })

  it('answers a challenge with a passkey, and sends no code beside it', async () => {
    const { signIn, byPasskey, challenge, code, router, leave } = await signingIn('/sign-in')
    code.value = '123'
    const posted = refused('code_needed', { passkey: { challenge: 'abc' } })
    await expect(signIn.mutateAsync(undefined)).rejects.toThrow('No.')
    expect(challenge.value).toEqual({ challenge: 'abc' })
    vi.mocked(startAuthentication).mockResolvedValue({ id: 'key' } as never)
    posted.mockResolvedValueOnce({ data: {}, response: new Response('') } as never)
    await byPasskey.mutateAsync()
    expect(startAuthentication).toHaveBeenCalledWith({ optionsJSON: { challenge: 'abc' } })
    expect(posted.mock.calls.at(-1)?.[1]).toMatchObject({
      body: { code: '', passkey: { id: 'key' } },
    })
    expect(router.currentRoute.value.fullPath).toBe('/')
    leave()
  })
})
