import { afterEach, describe, expect, it, vi } from 'vitest'
import { Refusal, service, used } from '@/parts/forTests'
import { t } from '@/words'
import { usePicking } from './usePicking'

const PICKING = 'GET /api/v1/pickings/{id}'
const ANSWER = 'POST /api/v1/pickings/{id}/answer'
const rows = [{ action: 'make' }, { action: 'make' }, { action: 'none' }]

function picking(answer: Parameters<typeof service>[0][string]) {
  const calls = service({
    [PICKING]: () => ({ pairing: 'p1', multiple: true, columns: true, shell: 'HYD 210-01' }),
    'GET /api/v1/pairings/{id}': () => ({ id: 'p1' }),
    'GET /api/v1/pairings/{pairing_pk}/items': ({ query }) =>
      query.cursor
        ? { results: [{ id: 'b' }], next: null }
        : { results: [{ id: 'a' }], next: 'https://venn.example/items?cursor=2' },
    [ANSWER]: answer,
  })
  return { calls, ...used(() => usePicking('k1')) }
}

describe('what a platform lets somebody pick', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is every item of the course, and nothing is given by choosing', async () => {
    const {
      calls,
      rows: items,
      chosen,
      sentence,
      given,
      leave,
    } = picking(() => ({
      ...{ rows, columns: 2 },
    }))
    await vi.waitFor(() => expect(items.value.map((each) => each.id)).toEqual(['a', 'b']))
    expect(sentence.value).toBe(t('deploy.pick.choose_what_the_course_should'))
    chosen.value = ['a', 'b']
    await vi.waitFor(() => expect(given.value).toHaveLength(2))
    expect(sentence.value).toContain('HYD 210-01')
    const sent = calls.filter((each) => each.call === ANSWER)
    expect(sent.map((each) => [each.body.items, each.body.dry_run])).toEqual([[['a', 'b'], true]])
    leave()
  })

  it('is posted to the platform, signed, from this window', async () => {
    const submit = vi.spyOn(HTMLFormElement.prototype, 'submit').mockImplementation(() => {})
    const { chosen, give, leave } = picking(({ body }) =>
      body.dry_run
        ? { rows, columns: 2 }
        : { url: 'https://campus.example/picked', token: 'signed' },
    )
    chosen.value = ['a']
    await give.mutateAsync()
    expect(submit).toHaveBeenCalledOnce()
    const form = submit.mock.contexts[0] as HTMLFormElement
    expect([form.method, form.action]).toEqual(['post', 'https://campus.example/picked'])
    expect(Object.fromEntries(new FormData(form))).toEqual({ JWT: 'signed' })
    form.remove()
    leave()
  })

  it('is not given where that is refused', async () => {
    const submit = vi.spyOn(HTMLFormElement.prototype, 'submit').mockImplementation(() => {})
    const { chosen, give, leave } = picking(() => new Refusal(410, 'It was picked already.'))
    chosen.value = ['a']
    await expect(give.mutateAsync()).rejects.toThrow('It was picked already.')
    expect(submit).not.toHaveBeenCalled()
    leave()
  })
})
