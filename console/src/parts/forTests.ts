import { QueryClient, VueQueryPlugin } from '@tanstack/vue-query'
import { vi } from 'vitest'
import { createApp, type Plugin } from 'vue'
import { api } from '@/api/client'

type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'

/** What the service was asked: the address as the schema writes it, what fills it and follows it, and the body. */
export interface Asked {
  call: string
  path: Record<string, string>
  query: Record<string, unknown>
  body: Record<string, unknown>
}

/** How the service refuses. */
export class Refusal {
  constructor(
    readonly status: number,
    readonly detail: string,
    readonly remedy = '',
  ) {}
}

/**
 * Be the service of one test: it answers each call, such as `GET /api/v1/me`, as the test says,
 * and notes what it was asked. A call that the test does not know fails it. `vi.restoreAllMocks` ends
 * it.
 */
export function service(answers: Record<string, (asked: Asked) => unknown>): Asked[] {
  const asked: Asked[] = []
  for (const method of ['GET', 'POST', 'PUT', 'PATCH', 'DELETE'] satisfies Method[]) {
    const answer = async (
      address: string,
      given: {
        params?: { path?: Asked['path']; query?: Asked['query'] }
        body?: Asked['body']
      } = {},
    ) => {
      const call = `${method} ${address}`
      const found = answers[call]
      if (!found) throw new Error(`nobody answers ${call}`)
      const one = {
        call,
        path: given.params?.path ?? {},
        query: given.params?.query ?? {},
        body: given.body ?? {},
      }
      asked.push(one)
      const data = await found(one)
      return data instanceof Refusal
        ? { error: { ...data, code: 'refused' }, response: new Response('', data) }
        : { data, response: new Response('') }
    }
    vi.spyOn(api, method).mockImplementation(answer as never)
  }
  return asked
}

/** Use a composable as a page does, with questions of its own; `leave` ends the page. */
export function used<T>(composable: () => T, ...plugins: Plugin[]): T & { leave: () => void } {
  let found!: T
  const app = createApp({
    setup() {
      found = composable()
      return () => null
    },
  })
  const often = { retry: false, networkMode: 'always' as const }
  const client = new QueryClient({ defaultOptions: { queries: often, mutations: often } })
  app.use(VueQueryPlugin, { queryClient: client })
  for (const each of plugins) app.use(each)
  app.mount(document.createElement('div'))
  return { ...found, leave: () => app.unmount() }
}
