import { afterEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import { service, used } from '@/parts/forTests'
import { useRules } from './useRules'

const READ = 'GET /api/v1/pairings/{pairing_pk}/relay-rules'
const CHANGE = 'POST /api/v1/pairings/{pairing_pk}/relay-rules'
const RULES = {
  changes: { when: 'due' },
  categories: { Homework: { places: 1 } },
  items: [
    { item: 'i1', category: 'Homework', own: {} },
    { item: 'i2', category: '', own: { relays: false } },
  ],
}

async function rules() {
  const asked = service({
    [READ]: () => RULES,
    [CHANGE]: () => ({ words: 'Scores go on the day they are due.' }),
    'GET /api/v1/pairings/{pairing_pk}/relay': () => ({}),
  })
  const found = used(() => useRules(ref('p1')))
  await vi.waitFor(() => expect(found.rules.value).toBeDefined())
  await nextTick()
  return { asked, ...found }
}
const sent = (asked: Awaited<ReturnType<typeof rules>>['asked']) =>
  asked.filter((each) => each.call === CHANGE).map((each) => each.body)

describe('the rules of a relay', () => {
  afterEach(() => vi.restoreAllMocks())

  it('show the rule for all items, what it leaves unsaid as it is without one', async () => {
    const { chosen, categories } = await rules()
    expect(chosen).toMatchObject({ when: 'due', late: 'at_once', relays: true })
    expect(categories.value).toEqual(['Homework'])
  })

  it('show a category or an item over the rule for all', async () => {
    const { chosen, scope, key } = await rules()
    scope.value = 'category'
    await nextTick()
    expect(key.value).toBe('Homework')
    expect(chosen).toMatchObject({ when: 'due', places: 1 })
    scope.value = 'item'
    await nextTick()
    key.value = 'i2'
    await nextTick()
    expect(chosen).toMatchObject({ when: 'due', relays: false, places: null })
  })

  it('send what differs from the wider rule alone, and first only ask what it would mean', async () => {
    const { asked, chosen, scope, foresee, change } = await rules()
    scope.value = 'category'
    await nextTick()
    chosen.late = 'held'
    await foresee.mutateAsync()
    await change.mutateAsync(undefined)
    const body = { scope: 'category', key: 'Homework', changes: { places: 1, late: 'held' } }
    expect(sent(asked)).toEqual([
      { ...body, dry_run: true },
      { ...body, dry_run: false },
    ])
  })

  it('forget what would come of a rule as soon as another is chosen', async () => {
    const { chosen, foresee } = await rules()
    await foresee.mutateAsync()
    expect(foresee.data.value).toBeDefined()
    chosen.comments = false
    await nextTick()
    expect(foresee.data.value).toBeUndefined()
  })

  it('take a rule back by sending nothing of it', async () => {
    const { asked, change } = await rules()
    await change.mutateAsync({})
    expect(sent(asked)).toEqual([{ scope: 'all', key: '', changes: {}, dry_run: false }])
  })
})
