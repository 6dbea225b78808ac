import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { asked, benchOf, entriesOf, firstAreaOf, fromAddress, toAddress } from './entries'

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

  it('comes from a plan in the units of whoever reads it', () => {
    const sum = { calculation: 'lime', entries: { area: { amount: 464.5152 }, way: { choice: 'volume' }, rate: { amount: 48.824 } } }
    expect(benchOf(sum, fields, 'us')).toBe('/bench/lime?area=5000%7Eft2&way=volume&rate=10%7Elb%2F1000ft2')
    expect(benchOf(sum, fields, 'metric')).toBe('/bench/lime?area=464.515%7Em2&way=volume&rate=48.824%7Eg%2Fm2')
  })
  it('checks a spreader after the first area with what the job says, in the units of the reader', () => {
    const job = { grams: 11_340, rate: 24.41, area: 464.5 }
    expect(fromAddress(new URLSearchParams(firstAreaOf(job, 'metric').split('?')[1]))).toEqual({
      start: { text: '11.34', unit: 'kg' },
      want: { text: '24.41', unit: 'g/m2' },
      area: { text: '464.5', unit: 'm2' },
    })
    expect(fromAddress(new URLSearchParams(firstAreaOf(job, 'us').split('?')[1]))).toEqual({
      start: { text: '25', unit: 'lb' },
      want: { text: '5', unit: 'lb/1000ft2' },
      area: { text: '5000', unit: 'ft2' },
    })
  })
})
