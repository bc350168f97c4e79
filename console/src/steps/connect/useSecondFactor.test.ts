import { startAuthentication, startRegistration } from '@simplewebauthn/browser'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { Problem } from '@/api/client'
import { service, used } from '@/parts/forTests'
import { inWords, useSecondFactor } from './useSecondFactor'

vi.mock('@simplewebauthn/browser', () => ({
  startAuthentication: vi.fn(() => Promise.resolve({ id: 'proof' })),
  startRegistration: vi.fn(() => Promise.resolve({ id: 'made' })),
}))

const PROVE = 'POST /api/v1/me/passkeys/options-to-prove'
const ASK = 'POST /api/v1/me/passkeys/options-to-add'
const ADD = 'POST /api/v1/me/passkeys'
const REMOVE = 'DELETE /api/v1/me/passkeys/{id}'
const APP = 'PUT /api/v1/me/second-factor'
const OFF = 'DELETE /api/v1/me/second-factor'
const named = (name: string) => Object.assign(new Error('in the browser’s words'), { name })

function secondFactor(on: boolean) {
  const asked = service({
    'GET /api/v1/me/passkeys': () => [],
    [PROVE]: () => ({ options: { challenge: 'prove' } }),
    [ASK]: () => ({ options: { challenge: 'add' } }),
    [ADD]: () => ({ recovery: on ? [] : ['r1', 'r2'] }),
    [REMOVE]: () => ({}),
    [APP]: () => ({ recovery: ['r1'] }),
    [OFF]: () => ({}),
  })
  const sent = (call: string) => asked.find((each) => each.call === call)?.body
  return { asked, sent, ...used(() => useSecondFactor(() => on)) }
}

describe('a second factor', () => {
  afterEach(() => {
    vi.restoreAllMocks()
    vi.mocked(startAuthentication).mockClear()
  })

  it('is added without a proof where there is none yet, and its recovery codes are shown', async () => {
    const { asked, sent, add, name, recovery, leave } = secondFactor(false)
    name.value = ' Laptop '
    await add.mutateAsync()
    expect(asked.some((each) => each.call === PROVE)).toBe(false)
    expect(startRegistration).toHaveBeenCalledWith({ optionsJSON: { challenge: 'add' } })
    expect(sent(ADD)).toEqual({ name: 'Laptop', passkey: { id: 'made' } })
    expect([recovery.value, name.value]).toEqual([['r1', 'r2'], ''])
    leave()
  })

  it('is proved by a passkey where no code is typed, by the code where one is', async () => {
    const byKey = secondFactor(true)
    await byKey.remove.mutateAsync(7)
    expect(byKey.sent(REMOVE)).toEqual({ passkey: { id: 'proof' } })
    byKey.leave()
    vi.restoreAllMocks()
    const byCode = secondFactor(true)
    byCode.code.value = ' 123456 '
    await byCode.remove.mutateAsync(7)
    expect(byCode.sent(REMOVE)).toEqual({ code: '123456' })
    expect(byCode.code.value, 'a code is good once').toBe('')
    byCode.leave()
  })

  it('of an app is confirmed by its code; turning it off leaves no codes in sight', async () => {
    const { sent, code, confirm, off, recovery, leave } = secondFactor(true)
    code.value = '654321'
    await confirm.mutateAsync()
    expect([sent(APP), recovery.value]).toEqual([{ code: '654321' }, ['r1']])
    await off.mutateAsync()
    expect([sent(OFF), recovery.value]).toEqual([{ passkey: { id: 'proof' } }, []])
    leave()
  })

  it('that the browser did not give changes nothing, and is said in our words', async () => {
    const { asked, off, error, leave } = secondFactor(true)
    vi.mocked(startAuthentication).mockRejectedValueOnce(named('NotAllowedError'))
    await expect(off.mutateAsync()).rejects.toThrow()
    expect(asked.some((each) => each.call === OFF)).toBe(false)
    expect(error.value).toBeInstanceOf(Problem)
    expect(error.value?.message).not.toContain('browser’s words')
    leave()
  })

  it('tells a device that is known already from a person who turned away', () => {
    const [known, away] = ['InvalidStateError', 'AbortError'].map((name) => inWords(named(name)))
    expect([known, away].map((each) => (each as Problem).code)).toEqual([
      'known_passkey',
      'no_passkey',
    ])
    const other = named('TypeError')
    expect([inWords(other), inWords(null)]).toEqual([other, null])
  })
})
