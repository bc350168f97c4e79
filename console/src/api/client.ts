import createClient from 'openapi-fetch'
import { language, t } from '@/words'
import { Problem } from './problem'
import type { components, paths } from './schema'

export type Schemas = components['schemas']

export { Problem }

export const api = createClient<paths>({ baseUrl: '/' })

api.use({
  onRequest({ request }) {
    request.headers.set('Accept-Language', language())
    if (request.method === 'GET') return
    const token = /(?:^|; )vennpair_csrf=([^;]+)/.exec(document.cookie)?.[1]
    if (token) request.headers.set('X-CSRFToken', token)
    // A second click, or a retry after a broken connection, is the same request.
    if (request.method === 'POST' && !request.headers.has('Idempotency-Key')) {
      request.headers.set('Idempotency-Key', crypto.randomUUID())
    }
  },
})

interface Answer<T> {
  data?: T
  error?: unknown
  response: Response
}

/** Give the data of an answer, or throw its problem. */
export async function answered<T>(call: Promise<Answer<T>>): Promise<T> {
  const { data, error, response } = await call
  if (response.ok) return data as T
  const facts = (typeof error === 'object' && error !== null ? error : {}) as Record<string, string>
  throw new Problem(
    response.status,
    facts.code ?? 'unreachable',
    facts.detail ?? t('problem.no_answer'),
    facts.remedy ?? t('problem.moment'),
    facts,
  )
}

/**
 * Of a call that answers in one of two shapes, what it would do or what it began, give the one that
 * has a field.
 */
export function shaped<T extends object, K extends string>(
  answer: T,
  field: K,
): Extract<T, { [each in K]: unknown }> {
  if (!(field in answer)) throw new TypeError(`an answer without ${field}`)
  return answer as Extract<T, { [each in K]: unknown }>
}

/** Give the bytes of an answer that is a file; the call says `parseAs: 'blob'`, the schema calls bytes a string. */
export async function bytesOf(call: Promise<Answer<unknown>>): Promise<Blob> {
  const bytes = await answered(call)
  if (!(bytes instanceof Blob)) throw new TypeError('an answer without bytes')
  return bytes
}

/** Give the next page's cursor from a list's address. */
export function cursorOf(next: string | null | undefined): string | undefined {
  return next ? (new URL(next).searchParams.get('cursor') ?? undefined) : undefined
}
