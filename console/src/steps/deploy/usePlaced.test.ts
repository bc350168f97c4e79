import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { service, used } from '@/parts/forTests'
import { usePlaced } from './usePlaced'

const PAIRING = 'GET /api/v1/pairings/{id}'
const PLACED = 'GET /api/v1/pairings/{pairing_pk}/placements'
const ORDER = 'POST /api/v1/pairings/{pairing_pk}/orders'
const link = (id: string, place: number, folder = '', category = '') => ({
  ...{ id, place, category, folder },
  folder_id: folder && `id of ${folder}`,
})
const FIRST = [link('c', 3, 'Unit 2', 'Quizzes'), link('a', 1, 'Unit 1', 'Quizzes')]
const SECOND = [link('b', 2, 'Unit 1'), link('d', 4)]

async function placed(order: () => unknown = () => ({ job: { id: 'j1' } })) {
  const asked = service({
    [PAIRING]: () => ({ id: 'p1' }),
    [PLACED]: ({ query }) =>
      query.cursor
        ? { results: SECOND, next: null }
        : { results: FIRST, next: 'https://venn.example/placements?cursor=2' },
    [ORDER]: order,
  })
  const found = used(() => usePlaced(ref('p1')))
  await vi.waitFor(() => expect(found.placements.value).toHaveLength(4))
  const orders = () => asked.filter((each) => each.call === ORDER).map((each) => each.body)
  return { orders, ...found }
}

describe('what is placed', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is read to its end, and shown folder by folder in the shell’s order', async () => {
    const { folders, names, categories, leave } = await placed()
    expect(folders.value.map((each) => [each.name, each.rows.map((row) => row.id)])).toEqual([
      ['id of Unit 1', ['a', 'b']],
      ['id of Unit 2', ['c']],
      ['', ['d']],
    ])
    expect([names.value, categories.value]).toEqual([['Unit 1', 'Unit 2'], ['Quizzes']])
    leave()
  })

  it('is chosen in whole folders or one by one, each once', async () => {
    const { placements, folders, chosen, rows, isOn, choose, leave } = await placed()
    choose(folders.value[0]!.rows, true)
    choose([folders.value[0]!.rows[0]!], true)
    expect([...chosen.value].sort()).toEqual(['a', 'b'])
    expect([isOn(folders.value[0]!.rows), isOn(placements.value)]).toEqual([true, false])
    choose([folders.value[0]!.rows[0]!], false)
    expect(rows.value.map((each) => each.id)).toEqual(['b'])
    leave()
  })

  it('is put after another link, or first, one move at a time', async () => {
    let done!: (made: object) => void
    const { orders, put, begun, leave } = await placed(() => new Promise((go) => (done = go)))
    put('a', 'a')
    expect(orders()).toEqual([])
    put('a', 'b')
    await vi.waitFor(() => expect(orders()).toHaveLength(1))
    put('c', '') // while the first is under way
    done({ id: 'r1', job: { id: 'j1' } })
    await vi.waitFor(() => expect(begun.value).toHaveLength(1))
    put('c', '')
    await vi.waitFor(() => expect(orders()).toHaveLength(2))
    expect(orders()).toEqual([
      { entries: ['a'], after: 'b' },
      { entries: ['c'], after: 'start' },
    ])
    done({})
    leave()
  })

  it('is chosen no longer once something was begun with it', async () => {
    const { placements, chosen, choose, started, begun, leave } = await placed()
    choose(placements.value, true)
    started([{ id: 'r1' }] as never)
    started([{ id: 'r2' }] as never)
    expect(chosen.value).toEqual([])
    expect(begun.value.map((each) => each.id)).toEqual(['r2', 'r1'])
    leave()
  })
})
