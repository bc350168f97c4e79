import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { Refusal, service, used } from '@/parts/forTests'
import { useBringing } from './bringing'

const BRING = 'POST /api/v1/pairings/{pairing_pk}/imports/{id}/deliveries'
const WRITE = 'POST /api/v1/pairings/{pairing_pk}/imports/{id}/written'
const FILES = 'GET /api/v1/pairings/{pairing_pk}/imports/{id}/written'

function bringing(answers: Parameters<typeof service>[0], first: string[] = []) {
  const asked = service(answers)
  const chosen = ref(first)
  const begun = vi.fn()
  const questions = ref({})
  const found = used(() => useBringing(ref('p1'), ref('i1'), chosen, questions, begun))
  return { asked, chosen, begun, questions, ...found }
}
const planned = ({ body }: { body: Record<string, unknown> }) =>
  body.dry_run ? { entries: [{ id: 'e1' }] } : { job: { id: 'j1' } }

describe('bringing in', () => {
  beforeEach(() => void vi.useFakeTimers())
  afterEach(() => {
    vi.restoreAllMocks()
    vi.useRealTimers()
  })

  it('asks what comes of each choice, and of none where nothing is chosen', async () => {
    const { asked, chosen, plan, treatment, folder, leave } = bringing({ [BRING]: planned })
    await vi.advanceTimersByTimeAsync(400)
    expect(asked).toEqual([])
    chosen.value = ['e1', 'e2']
    folder.value = 'Week 1'
    await vi.advanceTimersByTimeAsync(400)
    expect(plan.value?.entries).toHaveLength(1)
    treatment.value = 'leave_out'
    await vi.advanceTimersByTimeAsync(100)
    expect(plan.value, 'of another choice').toBeUndefined()
    await vi.advanceTimersByTimeAsync(400)
    expect(asked.map((each) => each.body)).toEqual([
      { entries: ['e1', 'e2'], review: 'keep', folder: 'Week 1', questions: {}, dry_run: true },
      {
        entries: ['e1', 'e2'],
        review: 'leave_out',
        folder: 'Week 1',
        questions: {},
        dry_run: true,
      },
    ])
    leave()
  })

  it('writes what is chosen then, and nothing is chosen after it', async () => {
    const { asked, chosen, questions, bring, begun, leave } = bringing({ [BRING]: planned }, ['e1'])
    questions.value = { e1: [2, 5] }
    bring()
    await vi.advanceTimersByTimeAsync(0)
    expect(asked.at(-1)?.body).toEqual({
      ...{ entries: ['e1'], review: 'keep', folder: '', questions: { e1: [2, 5] } },
      dry_run: false,
    })
    expect(begun.mock.calls).toEqual([['j1', 'bringing']])
    expect(chosen.value).toEqual([])
    leave()
  })

  it('keeps what was chosen where it is refused, and says why', async () => {
    const { chosen, bring, begun, error, leave } = bringing(
      { [BRING]: () => new Refusal(409, 'The shell has changed.', 'Read it again.') },
      ['e1'],
    )
    bring()
    await vi.advanceTimersByTimeAsync(0)
    expect(error.value?.message).toBe('The shell has changed.')
    expect([chosen.value, begun.mock.calls]).toEqual([['e1'], []])
    leave()
  })

  it.each([
    ['is there', { package: 'k1', filename: 'unit.imscc', state: 'done' }, 'unit.imscc'],
    ['could not be written', { package: null, filename: '', state: 'failed' }, undefined],
  ])('waits for a file until it %s', async (_, { state, ...file }, name) => {
    const states = ['running', state]
    const { asked, write, written, begun, leave } = bringing(
      {
        [BRING]: planned,
        [WRITE]: () => ({ id: 'w1', job: { id: 'j2' } }),
        [FILES]: () => {
          const now = states.shift() ?? state
          const ready = now === state ? file : { package: null, filename: '' }
          return [
            { id: 'w0', package: 'k0' },
            { id: 'w1', ...ready, job: { state: now } },
          ]
        },
      },
      ['e1'],
    )
    const looks = () => asked.filter((each) => each.call === FILES).length
    write('thin')
    await vi.advanceTimersByTimeAsync(1_500)
    expect(begun.mock.calls).toEqual([['j2', 'writing']])
    expect(written.value?.name).toBe(name)
    expect(written.value?.href).toBe(name && '/api/v1/pairings/p1/packages/k1/content')
    expect(looks()).toBe(2)
    await vi.advanceTimersByTimeAsync(10_000)
    expect(looks(), 'not for ever').toBe(2)
    leave()
  })
})
