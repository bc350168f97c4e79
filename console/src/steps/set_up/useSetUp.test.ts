import { describe, expect, it } from 'vitest'
import type { Schemas } from '@/api/client'
import { isBusy } from './queries'
import { stationOf, wishesOf, writing } from './useSetUp'

const found = (started: string | null, ...stages: string[]) =>
  ({ started_at: started, sections: stages.map((stage) => ({ stage })) }) as Schemas['SetUp']

describe('a set-up', () => {
  it('is at the plan until it was started', () => {
    expect(stationOf(undefined)).toBe(1)
    expect(stationOf(found(null, 'ready'))).toBe(1)
    expect(stationOf(found('2027-01-11T08:00:00Z', 'running'))).toBe(2)
  })
  it('is busy while one section is', () => {
    expect(isBusy(found(null, 'ready', 'reading'))).toBe(true)
    expect(isBusy(found('2027-01-11T08:00:00Z', 'live', 'failed', 'undone'))).toBe(false)
  })
  it('is busy until it is said what came of it', () => {
    const ended = found('2027-01-11T08:00:00Z', 'live', 'live')
    expect(isBusy({ ...ended, words: '' })).toBe(true)
    expect(isBusy({ ...ended, words: '2 sections are live' })).toBe(false)
    expect(isBusy({ ...found(null, 'live'), words: '' })).toBe(false)
  })
  it('goes on where links are only brought up to date, and not where nothing is written', () => {
    const plan = (...writes: boolean[]) =>
      ({ sections: writes.map((each) => ({ writes: each, plan: { make: 0 } })) }) as never
    expect(writing(plan(true, false))).toBe(1)
    expect([writing(plan(false)), writing(undefined)]).toEqual([0, 0])
  })
  it('says nothing of dates that stay where they are', () => {
    const choices = {
      undated: 'ask',
      folders: { 'Unit 1': 'Week 1' },
      shift: 0,
      scores: 'due',
      access: '',
      navigation: false,
      way: 'columns',
      total: false,
      readings: false,
      review: 'keep',
      update: false,
      category: 'publisher',
      columnsShown: true,
    } as const
    expect(wishesOf(choices)).toEqual({
      undated: 'ask',
      folders: { 'Unit 1': 'Week 1' },
      scores: 'due',
      access: '',
      navigation: false,
      way: 'columns',
      total: '',
      readings: false,
      review: 'keep',
      update: false,
      category: 'publisher',
      columns_shown: true,
    })
    expect(wishesOf({ ...choices, shift: 7 })).toMatchObject({ shift_days: 7 })
    expect(wishesOf({ ...choices, total: true }).total).toBe('Homework total')
    expect(wishesOf({ ...choices, total: true, way: 'average' }).total).toBe('')
  })
})
