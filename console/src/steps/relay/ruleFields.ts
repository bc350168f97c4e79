import { t } from '@/words'
import type { Rule, useRules } from './useRules'

type Value = string | number | boolean | null
interface Option {
  value: Value
  label: string
  disabled?: boolean
}
interface Field {
  label: string
  value: Value
  options: Option[]
  /** It is an hour of the day, and not one of several. */
  time?: boolean
  choose: (value: Value) => void
}

const SCOPES = ['all', 'category', 'item'] as const

/** The fields of a rule that mean anything beside what is chosen in the others. */
export function ruleFields(rules: ReturnType<typeof useRules>): Field[] {
  const { scope, key, chosen, categories } = rules
  const own = (name: keyof Rule, label: string, options: Option[]): Field => ({
    label: t(`relay.rules.${label}`),
    value: chosen[name],
    options,
    choose: (value) => Object.assign(chosen, { [name]: value }),
  })
  const option = (value: Value, label: string, disabled = false): Option => ({
    value,
    label: t(`relay.rules.${label}`),
    disabled,
  })
  const of = (label: string, options: Option[]): Field => ({
    label: t(`relay.rules.${label}`),
    value: key.value,
    options,
    choose: (value) => (key.value = String(value)),
  })
  const noAttempts = !rules.rules.value?.attempts
  const byHand = chosen.when === 'due' || chosen.when === 'hand'
  const items = rules.rules.value?.items ?? []
  const places: Option[] = [0, 1, 2, 3, 4].map((each) => ({
    value: each,
    label: each ? t('relay.rules.decimals', { each }) : t('relay.rules.whole_points'),
  }))
  const fields: (Field | false)[] = [
    {
      label: t('relay.rules.for'),
      value: scope.value,
      options: [
        option('all', 'all_items'),
        option('category', 'a_category'),
        option('item', 'one_item'),
      ],
      choose: (value) => (scope.value = SCOPES.find((each) => each === value) ?? 'all'),
    },
    scope.value === 'category' &&
      of(
        'category',
        categories.value.map((each) => ({ value: each, label: each })),
      ),
    scope.value === 'item' &&
      of(
        'item',
        items.map((each) => ({ value: each.item, label: each.title })),
      ),
    own('relays', 'scores', [option(true, 'go_to_the_gradebook'), option(false, 'stay_here')]),
    own('when', 'when', [
      option('submission', 'as_learners_hand_in'),
      option('due', 'all_at_once_after_the'),
      option('daily', 'every_day_at_a_time'),
      option('hand', 'when_i_release_them'),
    ]),
    chosen.when === 'daily' && { ...own('at', 'at', []), time: true },
    byHand &&
      own('late', 'later_work', [
        option('at_once', 'goes_at_once'),
        option('hand', 'waits_for_me'),
      ]),
    own('counts', 'which_attempt', [
      option('publisher', 'as_the_publisher_counts'),
      option('last', 'the_last', noAttempts),
      option('best', 'the_best', noAttempts),
      option('first', 'the_first', noAttempts),
      option('mean', 'the_mean_of_all', noAttempts),
    ]),
    own('points', 'numbers', [
      option('given', 'as_the_publisher_states_them'),
      option('column', 'in_the_columns_points'),
    ]),
    chosen.points === 'column' &&
      own('places', 'rounded_to', [option(null, 'not_rounded'), ...places]),
  ]
  return fields.filter((each) => each !== false)
}
