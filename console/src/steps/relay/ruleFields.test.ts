import { describe, expect, it } from 'vitest'
import { reactive, ref } from 'vue'
import { ruleFields } from './ruleFields'
import type { useRules } from './useRules'

const ITEMS = [
  { item: 'i1', title: 'Unit 1 quiz', category: 'Quizzes' },
  { item: 'i2', title: 'Practice set 1A', category: 'Practice' },
]

/** The rule of a pairing whose publisher tells of attempts, or does not. */
function rule(attempts: boolean, more = {}) {
  const made = {
    rules: ref({ attempts, items: ITEMS }),
    scope: ref('all'),
    key: ref(''),
    categories: ref(['Quizzes', 'Practice']),
    chosen: reactive({
      relays: true,
      when: 'submission',
      at: '18:00',
      late: 'at_once',
      counts: 'publisher',
      points: 'given',
      places: null as number | null,
      ...more,
    }),
  }
  const fields = () => ruleFields(made as unknown as ReturnType<typeof useRules>)
  return {
    ...made,
    fields,
    field: (label: string) => fields().find((each) => each.label === label),
  }
}

describe('the fields of a rule', () => {
  it('are few until something makes another of them mean anything', () => {
    const { fields, chosen } = rule(true)
    const labels = () => fields().map((each) => each.label)
    expect(labels()).toEqual([
      'For',
      'Send scores to the gradebook',
      'When',
      'Which attempt',
      'Numbers',
    ])
    chosen.when = 'daily'
    expect(fields().filter((each) => each.time)).toHaveLength(1)
    chosen.when = 'due'
    expect(labels()).toContain('Later work')
    chosen.points = 'column'
    expect(labels()).toContain('Rounded to')
  })
  it('ask which item or category a rule of one is for', () => {
    const { scope, key, field } = rule(true)
    scope.value = 'item'
    expect(field('Item')?.options.map((each) => each.label)).toEqual([
      'Unit 1 quiz',
      'Practice set 1A',
    ])
    field('Item')?.choose('i2')
    expect(key.value).toBe('i2')
    scope.value = 'category'
    expect(field('Category')?.options.map((each) => each.value)).toEqual(['Quizzes', 'Practice'])
  })
  it('offer no attempt where the publisher tells of none', () => {
    const open = (attempts: boolean) =>
      rule(attempts)
        .field('Which attempt')
        ?.options.filter((each) => !each.disabled)
        .map((each) => each.value)
    expect(open(false)).toEqual(['publisher'])
    expect(open(true)).toEqual(['publisher', 'last', 'best', 'first', 'mean'])
  })
  it('change what is chosen, a number and nothing among it', () => {
    const { chosen, field } = rule(true, { points: 'column' })
    field('Rounded to')?.choose(2)
    expect(chosen.places).toBe(2)
    field('Rounded to')?.choose(null)
    expect(chosen.places).toBeNull()
    field('Send scores to the gradebook')?.choose(false)
    expect(chosen.relays).toBe(false)
  })
})
