import { useQuery } from '@tanstack/vue-query'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { ref } from 'vue'
import { answered, api } from '@/api/client'
import { Refusal, service, used } from './forTests'
import { useTelling, useUntold } from './untold'

const READ = 'GET /api/v1/me/tokens'

/** A page of which one part reads tokens; `tells` says whether it tells what went wrong. */
function page(answer: () => unknown, tells = false) {
  service({ [READ]: answer })
  const there = ref(true)
  const made = used(() => {
    const untold = useUntold()
    const tokens = useQuery({
      queryKey: ['tokens'],
      queryFn: () => answered(api.GET('/api/v1/me/tokens')),
      enabled: there,
    })
    useTelling(() => (tells ? tokens.error.value : null))
    return { ...untold, tokens }
  })
  const said = () => made.problems.value.map((each) => each.message)
  return { ...made, said, there }
}

afterEach(() => vi.restoreAllMocks())

describe('what a part of a page could not read', () => {
  it('is told by the page where the part does not', async () => {
    const { said, leave } = page(() => new Refusal(403, 'Not yours.'))
    await vi.waitFor(() => expect(said()).toEqual(['Not yours.']))
    leave()
  })
  it('is not told twice', async () => {
    const { said, tokens, leave } = page(() => new Refusal(403, 'Not yours.'), true)
    await vi.waitFor(() => expect(tokens.isError.value).toBe(true))
    await new Promise((later) => setTimeout(later, 20))
    expect(said()).toEqual([])
    leave()
  })
  it('is asked for again, and then the note goes', async () => {
    const answers: unknown[] = [new Refusal(409, 'Busy.'), new Refusal(409, 'Still busy.'), []]
    const { again, said, leave } = page(() => answers.shift())
    await vi.waitFor(() => expect(said()).toEqual(['Busy.']))
    await again()
    await vi.waitFor(() => expect(said()).toEqual(['Still busy.']))
    await again()
    await vi.waitFor(() => expect(said()).toEqual([]))
    leave()
  })
  it('does not matter once nobody looks at it, nor to who is signed out', async () => {
    const gone = page(() => new Refusal(403, 'Not yours.'))
    await vi.waitFor(() => expect(gone.said()).toEqual(['Not yours.']))
    gone.there.value = false
    await vi.waitFor(() => expect(gone.said()).toEqual([]))
    gone.leave()
    const out = page(() => new Refusal(401, 'Sign in.'))
    await vi.waitFor(() => expect(out.tokens.isError.value).toBe(true))
    await new Promise((later) => setTimeout(later, 20))
    expect(out.said()).toEqual([])
    out.leave()
  })
})
