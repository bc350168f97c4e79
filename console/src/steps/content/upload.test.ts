import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { Refusal, service, used } from '@/parts/forTests'
import { sendPackage } from './upload'
import { useImports } from './useImports'

const BEGIN = 'POST /api/v1/pairings/{pairing_pk}/packages'
const PART = 'PUT /api/v1/pairings/{pairing_pk}/packages/{id}/parts/{number}'
const READ = 'POST /api/v1/pairings/{pairing_pk}/imports'
const file = new File(['0123456789'], 'unit.imscc', { lastModified: 5 })
const part = (body: unknown) => (body as Blob).text()

describe('sending a package', () => {
  afterEach(() => vi.restoreAllMocks())

  it('goes part by part, and only those that are not there', async () => {
    const asked = service({
      [BEGIN]: () => ({ id: 'k1', part_bytes: 4, received: [1] }),
      [PART]: () => ({ id: 'k1', part_bytes: 4, received: [] }),
    })
    const shares: number[] = []
    const sent = await sendPackage('p1', file, (share) => shares.push(share))
    expect(asked[0]?.body).toEqual({
      filename: 'unit.imscc',
      size: 10,
      fingerprint: 'unit.imscc:10:5',
    })
    const parts = asked.slice(1)
    expect(parts.map((each) => each.path.number)).toEqual([0, 2])
    expect(await Promise.all(parts.map((each) => part(each.body)))).toEqual(['0123', '89'])
    expect(shares).toEqual([1 / 3, 2 / 3, 1])
    expect(sent.id).toBe('k1')
  })

  it('that is there already sends nothing', async () => {
    const asked = service({ [BEGIN]: () => ({ id: 'k1', part_bytes: 5, received: [0, 1] }) })
    await sendPackage('p1', file, () => {})
    expect(asked).toHaveLength(1)
  })

  it('that breaks off begins no import, and says so', async () => {
    const asked = service({
      'GET /api/v1/pairings/{pairing_pk}/imports': () => ({ results: [] }),
      [BEGIN]: () => ({ id: 'k1', part_bytes: 4, received: [] }),
      [PART]: ({ path }) =>
        Number(path.number) === 1
          ? new Refusal(413, 'The disk is full.')
          : { id: 'k1', part_bytes: 4, received: [] },
    })
    const { start, sent, made, leave } = used(() => useImports(ref('p1')))
    await expect(start.mutateAsync(file)).rejects.toThrow('The disk is full.')
    expect(asked.some((each) => each.call === READ)).toBe(false)
    expect([sent.value, made.value]).toEqual([-1, ''])
    leave()
  })

  it('is read once all of it is there; without a file the publisher’s is', async () => {
    const asked = service({
      'GET /api/v1/pairings/{pairing_pk}/imports': () => ({ results: [] }),
      'GET /api/v1/jobs/{id}': () => ({ state: 'running' }),
      [BEGIN]: () => ({ id: 'k1', part_bytes: 20, received: [] }),
      [PART]: () => ({ id: 'k1', part_bytes: 20, received: [0] }),
      [READ]: () => ({ id: 'i1', job: { id: 'j1' } }),
    })
    const { start, made, running, leave } = used(() => useImports(ref('p1')))
    await start.mutateAsync(file)
    await start.mutateAsync(undefined)
    const read = asked.filter((each) => each.call === READ).map((each) => each.body)
    expect(read).toEqual([{ source: 'upload', package: 'k1' }, { source: 'publisher' }])
    expect([made.value, running.value]).toEqual(['i1', true])
    leave()
  })
})
