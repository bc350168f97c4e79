import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { service, used } from '@/parts/forTests'
import { useTotal } from './useTotal'

const ITEMS = 'GET /api/v1/pairings/{pairing_pk}/items'
const MAKE = 'POST /api/v1/pairings/{pairing_pk}/averages'
const item = (id: string, category: string, points: string | null) => ({ id, category, points })

async function total() {
  const done = vi.fn()
  const asked = service({
    [ITEMS]: () => ({
      results: [
        item('a', 'Quizzes', '10'),
        item('b', 'Labs', '20.5'),
        item('c', 'Quizzes', '0'),
        item('d', '', '5'),
        item('e', 'Surveys', null),
      ],
      next: null,
    }),
    [MAKE]: () => ({ id: 'v1' }),
  })
  const found = used(() => useTotal(ref('p1'), done))
  await vi.waitFor(() => expect(found.counting.value).toHaveLength(3))
  const made = async () => {
    await found.make.mutateAsync()
    return asked.at(-1)!.body
  }
  return { done, made, ...found }
}

describe('a column for an average', () => {
  afterEach(() => vi.restoreAllMocks())

  it('counts every item that gives points, where no category is named', async () => {
    const { made, done, categories, leave } = await total()
    expect(categories.value).toEqual(['Quizzes', 'Labs'])
    const body = await made()
    expect([body.items, body.categories, body.weights]).toEqual([['a', 'b', 'd'], undefined, {}])
    expect(done).toHaveBeenCalledExactlyOnceWith({ id: 'v1' })
    leave()
  })

  it('counts the categories that are named', async () => {
    const { form, made, leave } = await total()
    form.of = ['Labs']
    const body = await made()
    expect([body.items, body.categories, body.weights]).toEqual([undefined, ['Labs'], {}])
    leave()
  })

  it('weighs each category, those without a weight as one, and no others', async () => {
    const { form, made, leave } = await total()
    form.weighting = 'categories' as never
    form.weights = { Quizzes: ' 40 ', Labs: ' ', Gone: '9' }
    expect((await made()).weights).toEqual({ Quizzes: '40', Labs: '1' })
    form.of = ['Quizzes']
    const body = await made()
    expect([body.categories, body.weights]).toEqual([['Quizzes'], { Quizzes: '40' }])
    leave()
  })
})
