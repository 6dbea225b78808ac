import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { asked, entriesOf, fromAddress, toAddress } from './entries'

const field = (id: string, more: Partial<Schemas['BenchField']> = {}): Schemas['BenchField'] => ({
  id,
  label: id,
  unit: '',
  low: 0,
  high: 10,
  optional: false,
  whole: false,
  ...more,
})
const way = field('way', {
  choices: [
    { id: 'mass', label: 'weight' },
    { id: 'volume', label: 'volume' },
  ],
})
const fields = [
  way,
  field('rate', { unit: 'g/m2', when: 'way=mass' }),
  field('drops', { unit: 'mL/m2', when: 'way=volume' }),
  field('area', { unit: 'm2' }),
  field('error', { usual: 0 }),
]

describe('what stands on the bench', () => {
  it('goes into the address and comes back', () => {
    const sheet = { area: { text: '1,200.5', unit: 'ft2' }, way: { text: 'volume', unit: '' } }
    expect(fromAddress(new URLSearchParams(toAddress(sheet).toString()))).toEqual(sheet)
    expect(toAddress({ area: { text: '', unit: 'm2' } }).toString()).toBe('')
  })
  it('asks for a field only with its choice', () => {
    expect(asked(fields, {}).map((f) => f.id)).toEqual(['way', 'rate', 'area', 'error'])
    expect(asked(fields, { way: { text: 'volume', unit: '' } }).map((f) => f.id)).toEqual(['way', 'drops', 'area', 'error'])
  })
  it('sends numbers in the unit they were typed in, and names what is missing or cannot be read', () => {
    const typed = { rate: { text: '2', unit: '' }, area: { text: 'ten', unit: 'm2' }, drops: { text: '3', unit: '' } }
    expect(entriesOf(fields, typed, 'us')).toEqual({
      entries: { way: { choice: 'mass' }, rate: { amount: 2, unit: 'lb/1000ft2' } },
      missing: [],
      wrong: ['area'],
    })
    expect(entriesOf(fields, {}, 'metric').missing).toEqual(['rate', 'area'])
  })
})
