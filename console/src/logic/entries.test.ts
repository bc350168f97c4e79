import { describe, expect, it } from 'vitest'
import { kindCounts, recognised, type Row, sides, stateName, viewed, within } from './entries'

const row = (
  position: number,
  parent: number,
  kind: string,
  title: string,
  more: Partial<Row> = {},
): Row => ({
  id: `e${position}`,
  position,
  parent,
  depth: parent < 0 ? 0 : 1,
  kind,
  shown_title: title,
  state: 'untouched',
  blocked: false,
  trouble: '',
  naming: '',
  ...more,
})
const rows = [
  row(0, -1, 'folder', 'Unit 1'),
  row(1, 0, 'page', 'Rivers', { state: 'made' }),
  row(2, 0, 'folder', 'Deeper'),
  row(3, 2, 'lti_link', 'Flow quiz', { naming: 'proposed' }),
  row(4, -1, 'file', 'Old slides', { blocked: true, trouble: 'missing_file' }),
]

describe('the entries of an import', () => {
  it('are counted by kind and by side, folders left out', () => {
    expect(kindCounts(rows)).toEqual([
      ['page', 1],
      ['lti_link', 1],
      ['file', 1],
    ])
    expect(sides(rows)).toEqual({ left: 1, both: 1, barred: 1 })
  })
  it('keep the folders around what a view shows', () => {
    expect(viewed(rows, { words: 'FLOW' }).map((each) => each.id)).toEqual(['e0', 'e2', 'e3'])
    expect(viewed(rows, { look: 'attention' }).map((each) => each.id)).toEqual([
      'e0',
      'e2',
      'e3',
      'e4',
    ])
    expect(viewed(rows, { look: 'shell' }).map((each) => each.id)).toEqual(['e0', 'e1'])
    expect(viewed(rows, { kind: 'file', words: 'nothing' })).toEqual([])
    expect(viewed(rows, {})).toBe(rows)
  })
  it('that are in the shell already are known by the plan for everything', () => {
    const known = recognised(rows, {
      entries: [
        { id: 'e3', action: 'update' },
        { id: 'e4', action: 'leave_out' },
      ],
    })
    expect(known.map(stateName)).toEqual([
      '',
      'in the shell',
      '',
      'in the shell, newer here',
      'cannot be imported',
    ])
    expect(sides(known)).toEqual({ left: 0, both: 2, barred: 1 })
  })
  it('of a folder are all that can be brought in, however deep', () => {
    expect(within(rows, rows[0]!).map((each) => each.id)).toEqual(['e1', 'e3'])
  })
})
