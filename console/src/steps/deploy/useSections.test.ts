import { useQueryClient } from '@tanstack/vue-query'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { service, used } from '@/parts/forTests'
import type { Section } from './sheet'
import { useSections } from './useSections'

const SHELLS = 'GET /api/v1/shells'
const shell = (label: string, pairing: string | null, state = 'live') => ({ label, pairing, state })

describe('the other sections', () => {
  afterEach(() => vi.restoreAllMocks())

  it('are those that are paired, by name, and none of them is chosen', async () => {
    service({
      [SHELLS]: () => ({
        results: [
          shell('HYD 210-03', 'p3', 'ready'),
          shell('HYD 210-01', 'p1'),
          shell('HYD 210-02', 'p2'),
          shell('HYD 210-04', 'p4', 'ended'),
          shell('HYD 210-05', null, 'ready'),
        ],
      }),
    })
    const sections = ref<Section[]>([])
    const { leave } = used(() => useSections(ref('p1'), sections))
    await vi.waitFor(() => expect(sections.value).toHaveLength(2))
    expect(sections.value.map((each) => [each.label, each.on])).toEqual([
      ['HYD 210-02', false],
      ['HYD 210-03', false],
    ])
    leave()
  })

  it('stay as they were chosen when the list is read again', async () => {
    let results = [shell('HYD 210-02', 'p2'), shell('HYD 210-03', 'p3')]
    service({ [SHELLS]: () => ({ results }) })
    const sections = ref<Section[]>([])
    const { client, leave } = used(() => {
      useSections(ref('p1'), sections)
      return { client: useQueryClient() }
    })
    await vi.waitFor(() => expect(sections.value).toHaveLength(2))
    Object.assign(sections.value[1]!, { on: true, shift: 2, folder: 'Homework' })
    results = [shell('HYD 210-02 (evening)', 'p2'), shell('HYD 210-03', 'p3'), shell('B', 'p4')]
    await client.invalidateQueries()
    await vi.waitFor(() => expect(sections.value).toHaveLength(3))
    expect(sections.value).toEqual([
      { pairing: 'p4', label: 'B', on: false, shift: 0, folder: '' },
      { pairing: 'p2', label: 'HYD 210-02 (evening)', on: false, shift: 0, folder: '' },
      { pairing: 'p3', label: 'HYD 210-03', on: true, shift: 2, folder: 'Homework' },
    ])
    leave()
  })
})
