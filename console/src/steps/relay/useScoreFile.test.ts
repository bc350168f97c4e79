import { afterEach, describe, expect, it, vi } from 'vitest'
import { Refusal, service, used } from '@/parts/forTests'
import { useScoreFile } from './useScoreFile'

const TAKE = 'POST /api/v1/pairings/{pairing_pk}/score-files'
const file = (name: string) => new File(['Student,Quiz\n'], name)
const ofFile = (body: unknown) =>
  Object.fromEntries(body as FormData) as { file: File; dry_run: string; layout: string }

describe('a file of scores', () => {
  afterEach(() => vi.restoreAllMocks())

  it('is looked into first, and taken only then', async () => {
    const asked = service({
      [TAKE]: ({ body }) => ({ words: ofFile(body).dry_run === 'true' ? 'Two' : 'Taken' }),
    })
    const { choose, look, take, seen, taken, leave } = used(() => useScoreFile(() => 'p1'))
    choose(file('one.csv'))
    await look.mutateAsync()
    expect(seen.value?.words).toBe('Two')
    await take.mutateAsync()
    expect(asked.map((each) => ofFile(each.body).dry_run)).toEqual(['true', 'false'])
    expect([seen.value, taken.value]).toEqual([undefined, 'Taken'])
    leave()
  })

  it('is not offered by what was found in another one, however late that comes', async () => {
    let late: (() => void) | undefined
    service({
      [TAKE]: ({ body }) =>
        ofFile(body).file.name === 'one.csv'
          ? new Promise((go) => (late = () => go({ words: 'of one' })))
          : { words: 'of two' },
    })
    const { choose, look, seen, leave } = used(() => useScoreFile(() => 'p1'))
    choose(file('one.csv'))
    look.mutate()
    await vi.waitFor(() => expect(late).toBeDefined())
    choose(file('two.csv'))
    late!()
    await new Promise((later) => setTimeout(later, 20))
    expect(seen.value).toBeUndefined()
    await look.mutateAsync()
    expect(seen.value?.words).toBe('of two')
    leave()
  })

  it('is looked into once more when it is to be read another way', async () => {
    service({ [TAKE]: () => ({ words: 'Two' }) })
    const { choose, layout, look, seen, leave } = used(() => useScoreFile(() => 'p1'))
    choose(file('one.csv'))
    await look.mutateAsync()
    layout.value = 'wide'
    expect(seen.value).toBeUndefined()
    choose(file('two.csv'))
    expect(layout.value, 'the other file’s').toBe('')
    leave()
  })

  it('keeps in sight what was wrong while that is corrected, and of no earlier file', async () => {
    service({ [TAKE]: () => new Refusal(422, 'No learner of this file is known.') })
    const { choose, layout, look, seen, leave } = used(() => useScoreFile(() => 'p1'))
    choose(file('one.csv'))
    await expect(look.mutateAsync()).rejects.toThrow('No learner')
    layout.value = 'wide'
    expect([look.error.value?.message, seen.value]).toEqual([
      'No learner of this file is known.',
      undefined,
    ])
    choose(file('two.csv'))
    expect(look.error.value).toBeNull()
    leave()
  })
})
