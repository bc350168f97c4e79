import { afterEach, describe, expect, it, vi } from 'vitest'
import { answered, api, cursorOf, Problem } from './client'

describe('answers', () => {
  it('give their data', async () => {
    expect(
      await answered(Promise.resolve({ data: { a: 1 }, response: new Response('{}') })),
    ).toEqual({ a: 1 })
  })
  it('that are problems are thrown with their remedy', async () => {
    const refused = Promise.resolve({
      error: { code: 'relay_off', detail: 'The relay is off.', remedy: 'Turn it on.' },
      response: new Response('{}', { status: 409 }),
    })
    const problem = await answered(refused).catch((error: unknown) => error)
    expect(problem).toBeInstanceOf(Problem)
    expect(problem).toMatchObject({
      status: 409,
      code: 'relay_off',
      message: 'The relay is off.',
      remedy: 'Turn it on.',
    })
  })
  it('that are no problem document still say what to do', async () => {
    const broken = Promise.resolve({ error: '<html>', response: new Response('', { status: 502 }) })
    expect(await answered(broken).catch((error: unknown) => error)).toMatchObject({
      code: 'unreachable',
      remedy: 'Try again in a moment.',
    })
  })
})

describe('requests', () => {
  afterEach(() => vi.unstubAllGlobals())
  it('that change something carry the token against forgery, and posts a key of their own', async () => {
    document.cookie = 'vennpair_csrf=abc123'
    const sent: Request[] = []
    const client = api as unknown as {
      POST: (path: string, options: object) => Promise<unknown>
      GET: (path: string, options: object) => Promise<unknown>
    }
    const fetch = (request: Request) => {
      sent.push(request)
      return Promise.resolve(
        new Response('{}', { headers: { 'Content-Type': 'application/json' } }),
      )
    }
    await client.POST('/api/v1/sign-out', { fetch, baseUrl: 'http://127.0.0.1/' })
    await client.POST('/api/v1/sign-out', { fetch, baseUrl: 'http://127.0.0.1/' })
    await client.GET('/api/v1/me', { fetch, baseUrl: 'http://127.0.0.1/' })
    expect(sent[0]?.headers.get('X-CSRFToken')).toBe('abc123')
    expect(sent[0]?.headers.get('Idempotency-Key')).not.toBe(
      sent[1]?.headers.get('Idempotency-Key'),
    )
    expect(sent[2]?.headers.get('Idempotency-Key')).toBeNull()
  })
})

describe('cursors', () => {
  it('are taken from the next page and absent at the end', () => {
    expect(cursorOf('https://pair.example/api/v1/shells?cursor=cD0x&limit=5')).toBe('cD0x')
    expect(cursorOf(null)).toBeUndefined()
  })
})
