import { describe, expect, it } from 'vitest'
import type { RouteMeta } from 'vue-router'
import { crumbsOf, titleOf } from './crumbs'

const at = (name: string, meta: RouteMeta, params: Record<string, string> = {}) => ({
  name,
  meta,
  params,
})

describe('the crumbs', () => {
  it('lead from the shells through the shell and its step to the page', () => {
    const page = at('placed', { crumb: 'placed', step: 'deploy' }, { pairing: 'p' })
    expect(crumbsOf(page, 'HYD 210-01').map((crumb) => crumb.label)).toEqual([
      'Shells',
      'HYD 210-01',
      'Deploy',
      'Placed items',
    ])
  })
  it('do not lead to where one is, and name a step once', () => {
    const trail = crumbsOf(at('relay', { crumb: 'relay' }, { pairing: 'p' }), 'HYD 210-01')
    expect(trail.map((crumb) => [crumb.label, Boolean(crumb.to)])).toEqual([
      ['Shells', true],
      ['HYD 210-01', true],
      ['Relay', false],
    ])
  })
  it('lead from the first help page to the others', () => {
    const page = at('help', { crumb: 'help' }, { page: 'relaying' })
    const trail = crumbsOf(page, undefined)
    expect(trail.map((crumb) => crumb.label)).toEqual(['Help', 'Sending scores'])
    expect(trail[0]!.to).toEqual({ name: 'help', params: { page: 'first-day' } })
    expect(titleOf(page, trail)).toBe('Sending scores · Venn Pair')
  })
  it('are none on the pages of the menu', () => {
    expect(crumbsOf(at('operations', {}), undefined)).toEqual([])
  })
  it('and the page name the window, the page first', () => {
    const page = at('relay', { crumb: 'relay' }, { pairing: 'p' })
    expect(titleOf(page, crumbsOf(page, 'HYD 210-01'))).toBe('Relay · HYD 210-01 · Venn Pair')
    expect(titleOf(at('operations', {}), [])).toBe('Operations · Venn Pair')
    expect(titleOf(at('sign-in', {}), [])).toBe('Sign in · Venn Pair')
  })
})
