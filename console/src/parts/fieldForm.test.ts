import { describe, expect, it } from 'vitest'
import { type Field, readForm, textsOf } from './fieldForm'

interface Values {
  name: string
  ids?: string[]
  note?: string
  secret?: string
}
const fields: Field<Values>[] = [
  { name: 'name', label: 'Name', help: '' },
  { name: 'ids', label: 'Ids', help: '', list: true, optional: true },
  { name: 'note', label: 'Note', help: '', optional: true },
  { name: 'secret', label: 'Secret', help: '', secret: true },
]

describe('a form', () => {
  it('shows what is there, and never a secret', () => {
    expect(textsOf(fields, { name: 'Kestrelbrook', ids: ['1', '2'], secret: 's' })).toEqual({
      name: 'Kestrelbrook',
      ids: '1, 2',
      note: '',
      secret: '',
    })
  })
  it('names what is needed and empty', () => {
    expect(readForm(fields, { name: ' ', ids: '', note: '' }, undefined).missing).toEqual([
      'name',
      'secret',
    ])
  })
  it('gives a list without empty parts, and leaves out what was never there', () => {
    const read = readForm(fields, { name: ' A ', ids: '1, ,2', secret: 's' }, undefined)
    expect(read).toEqual({ values: { name: 'A', ids: ['1', '2'], secret: 's' }, missing: [] })
  })
  it('keeps a secret that is left empty, and empties what was there and is taken away', () => {
    const read = readForm(fields, { name: 'A', note: '' }, { name: 'A', note: 'old' })
    expect(read).toEqual({ values: { name: 'A', note: '' }, missing: [] })
  })
})
