import { afterEach, describe, expect, it, vi } from 'vitest'
import * as saving from '@/parts/save'
import { Refusal, service, used } from '@/parts/forTests'
import { useFileComparison } from './useFileComparison'

const COMPARE = 'POST /api/v1/file-comparisons'
const sent = (body: unknown) => Object.fromEntries(body as FormData)
const file = (name: string) => new File(['Student,Quiz\n'], name)
const summary = { agree: 3, cells: 8 }

describe('comparing two files', () => {
  afterEach(() => vi.restoreAllMocks())

  it('begins once both are there, and again with each other one', async () => {
    const asked = service({ [COMPARE]: () => ({ summary }) })
    const { chosen, layout, both, agree, cells, found, leave } = used(() => useFileComparison())
    chosen('publisher', file('scores.csv'))
    expect([both.value, asked.length, cells.value]).toEqual([false, 0, 0])
    layout.value = 'wide'
    chosen('gradebook', file('grades.csv'))
    await vi.waitFor(() => expect(found.value).toBeDefined())
    expect([agree.value, cells.value]).toEqual([3, 8])
    chosen('gradebook', file('grades-2.csv'))
    await vi.waitFor(() => expect(asked).toHaveLength(2))
    const { gradebook, layout: said } = sent(asked[1]?.body)
    expect([(gradebook as File).name, said]).toEqual(['grades-2.csv', ''])
    leave()
  })

  it('shows what belongs to the files that are chosen now, whichever answer comes last', async () => {
    let late: (() => void) | undefined
    service({
      [COMPARE]: ({ body }) =>
        (sent(body).gradebook as File).name === 'old.csv'
          ? new Promise((go) => (late = () => go({ summary: { agree: 0, cells: 1 } })))
          : { summary },
    })
    const { chosen, cells, leave } = used(() => useFileComparison())
    chosen('publisher', file('scores.csv'))
    chosen('gradebook', file('old.csv'))
    await vi.waitFor(() => expect(late).toBeDefined())
    chosen('gradebook', file('new.csv'))
    await vi.waitFor(() => expect(cells.value).toBe(8))
    late!()
    await new Promise((later) => setTimeout(later, 20))
    expect(cells.value).toBe(8)
    leave()
  })

  it.each([
    ['scores.csv has no header.', 'scores.csv'],
    ['The file has no header.', 'grades.csv'],
  ])('of which one cannot be read asks about that one: %s', async (words, name) => {
    service({ [COMPARE]: () => new Refusal(422, words) })
    const { chosen, compare, wide, found, leave } = used(() => useFileComparison())
    chosen('publisher', file('scores.csv'))
    chosen('gradebook', file('grades.csv'))
    await vi.waitFor(() => expect(compare.error.value?.message).toBe(words))
    expect([wide.value?.name, found.value]).toEqual([name, undefined])
    leave()
  })

  it('is saved under the gradebook’s own name, or what it is', async () => {
    const asked = service({
      [COMPARE]: ({ body }) => (sent(body).form ? new Blob(['x']) : { summary }),
    })
    const save = vi.spyOn(saving, 'save').mockImplementation(() => {})
    const { chosen, take, away, leave } = used(() => useFileComparison())
    chosen('publisher', file('scores.csv'))
    chosen('gradebook', file('grades.csv'))
    take.value = ['unsent', 'typed_over']
    await away.mutateAsync('gradebook')
    await away.mutateAsync('xlsx')
    expect(save.mock.calls.map(([, name]) => name)).toEqual(['grades.csv', 'comparison.xlsx'])
    expect((asked.at(-1)?.body as unknown as FormData).getAll('take')).toEqual([
      'unsent',
      'typed_over',
    ])
    leave()
  })
})
