import { afterEach, describe, expect, it, vi } from 'vitest'
import { nextTick, ref } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { Refusal, service, used } from '@/parts/forTests'
import { useEntries } from './useEntries'
import { useEntry } from './useEntry'

const ENTRIES = 'GET /api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries'
const KNOWN = 'POST /api/v1/pairings/{pairing_pk}/imports/{id}/deliveries'
const ITEMS = 'GET /api/v1/pairings/{pairing_pk}/items'
const SEEN = 'GET /api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/preview'
const MATCH = 'POST /api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/{id}/match'
const RENAME = 'POST /api/v1/pairings/{pairing_pk}/imports/{import_pk}/entries/rename'
const entry = (id: string, kind: string, title = id) =>
  ({
    ...{ id, kind, shown_title: title, title },
    ...{ group: '', findings: [], line_item: '' },
  }) as never

async function entries(address: string) {
  const asked = service({
    [ENTRIES]: ({ query }) =>
      query.cursor
        ? { results: [entry('c', 'page', 'Rain')], next: null }
        : {
            results: [entry('a', 'folder', 'Unit 1'), entry('b', 'lti_link', 'Quiz 1')],
            next: 'https://venn.example/entries?cursor=2',
          },
    [KNOWN]: () => ({ entries: [] }),
    [ITEMS]: () => ({ results: [{ id: 'i1' }], next: null }),
  })
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/import', component: { render: () => null } }],
  })
  await router.push(address)
  const found = used(() => useEntries(ref('p1'), ref('m1')), router)
  await vi.waitFor(() => expect(found.rows.value).toHaveLength(3))
  return { asked, router, ...found }
}

describe('the entries of an import', () => {
  afterEach(() => vi.restoreAllMocks())

  it('are read to their end, and are recognised by a plan that changes nothing', async () => {
    const { asked, graded, leave } = await entries('/import')
    await vi.waitFor(() => expect(asked.some((each) => each.call === KNOWN)).toBe(true))
    expect(asked.find((each) => each.call === KNOWN)?.body).toEqual({
      everything: true,
      dry_run: true,
    })
    await vi.waitFor(() => expect(graded.value).toHaveLength(1))
    leave()
  })

  it('follow what is typed once a moment has passed, and the address keeps it', async () => {
    const { router, words, shown, leave } = await entries('/import?kind=page')
    expect(shown.value.map((each) => each.id)).toContain('c')
    for (const typed of ['r', 'ra', 'rai']) words.value = typed
    expect(router.currentRoute.value.query.words).toBeUndefined()
    await vi.waitFor(() => expect(router.currentRoute.value.query.words).toBe('rai'))
    expect(router.currentRoute.value.query.kind).toBe('page')
    words.value = ''
    await vi.waitFor(() => expect(router.currentRoute.value.query).toEqual({ kind: 'page' }))
    leave()
  })

  it('are opened beside the tree, and narrowed by what is turned on and off again', async () => {
    const { router, entry: open, look, toggle, leave } = await entries('/import')
    await look('b')
    expect(open.value?.shown_title).toBe('Quiz 1')
    expect(toggle('kind', 'page').query).toEqual({ entry: 'b', kind: 'page' })
    await router.replace(toggle('kind', 'page'))
    expect(toggle('kind', 'page').query.kind).toBeUndefined()
    await look()
    await nextTick()
    expect(open.value).toBeUndefined()
    leave()
  })
})

describe('one entry', () => {
  afterEach(() => vi.restoreAllMocks())
  const graded = ref([
    { id: 'i1', shown_title: 'Quiz 1', points: '10', line_item: 'https://press.example/1' },
  ] as Schemas['Item'][])

  it('keeps a name that is being typed while the list is read again', async () => {
    service({ [SEEN]: () => ({}) })
    const shown = ref(entry('a', 'page', 'Rain') as Schemas['Entry'])
    const { name, leave } = used(() => useEntry(ref('p1'), ref('m1'), shown, graded))
    expect(name.value).toBe('Rain')
    name.value = 'Rain and'
    shown.value = { ...shown.value, line_item: 'https://press.example/1' }
    await nextTick()
    expect(name.value).toBe('Rain and')
    shown.value = entry('b', 'page', 'Rivers')
    await nextTick()
    expect(name.value, 'another entry').toBe('Rivers')
    leave()
  })

  it('is matched to a graded item, or to none', async () => {
    const asked = service({ [SEEN]: () => ({}), [MATCH]: () => ({}), [RENAME]: () => ({}) })
    const shown = ref(entry('a', 'lti_link', 'Quiz') as Schemas['Entry'])
    const { match, matched, choices, name, rename, leave } = used(() =>
      useEntry(ref('p1'), ref('m1'), shown, graded),
    )
    expect(matched.value).toBe('none')
    expect(choices.value.map((each) => each.value)).toEqual(['none', 'i1'])
    await match.mutateAsync('i1')
    await match.mutateAsync('none')
    name.value = ' Quiz 1 '
    await rename.mutateAsync()
    const sent = asked.filter((each) => each.call !== SEEN)
    expect(sent.map((each) => each.body)).toEqual([
      { item: 'i1' },
      { item: null },
      { names: { a: 'Quiz 1' } },
    ])
    shown.value = { ...shown.value, line_item: 'https://press.example/1' }
    expect(matched.value).toBe('i1')
    leave()
  })

  it('is still there where its preview could not be read', async () => {
    service({ [SEEN]: () => new Refusal(422, 'The page is damaged.') })
    const { reading, name, leave } = used(() =>
      useEntry(ref('p1'), ref('m1'), ref(entry('a', 'page', 'Rain') as Schemas['Entry']), graded),
    )
    await vi.waitFor(() => expect(reading.error.value?.message).toBe('The page is damaged.'))
    expect(name.value).toBe('Rain')
    leave()
  })
})
