import { describe, expect, it } from 'vitest'
import type { Schemas } from './client'
import { words } from './queries'

const raw = {
  knowledge: 'x',
  stations: [],
  procedures: [],
  actions: [],
  species: [],
  findings: [
    { id: 'grubs-per-m2', label: 'Grubs per m²', kind: 'number', unit: '1/m2', measure: '1/m2', values: [] },
    { id: 'soil-temp-c', label: 'Soil temperature', kind: 'number', unit: 'degC at 50 mm', measure: 'C', values: [] },
    { id: 'pull-test', label: 'Pull test', kind: 'one-of', unit: '', values: [{ id: 'lifts-like-carpet', label: 'lifts like a carpet' }] },
  ],
  weather_findings: [{ id: 'disease-window', label: 'Disease weather', provisional: true }],
  causes: [{ id: 'dollar-spot', label: 'Dollar spot', family: 'disease', act_above: 0.5 }],
} as unknown as Schemas['Vocabulary']

describe('what a specialist reads', () => {
  const w = words(raw)
  it('names findings, weather findings and those kept once a cause', () => {
    expect(w.findingLabel('pull-test')).toBe('Pull test')
    expect(w.findingLabel('disease-window:dollar-spot')).toBe('Disease weather: dollar spot')
    expect(w.findingLabel('not-known-yet')).toBe('not known yet')
  })
  it('names values with their unit', () => {
    expect(w.valueLabel('pull-test', 'lifts-like-carpet')).toBe('lifts like a carpet')
    expect(w.valueLabel('soil-temp-c', 27.456)).toBe('27.46 °C')
    expect(w.valueLabel('grubs-per-m2', 86)).toBe('86 per m²')
    expect(words(raw, 'us').valueLabel('soil-temp-c', 27.456)).toBe('81.42 °F')
    expect(words(raw, 'us').valueLabel('grubs-per-m2', 86)).toBe('7.99 per ft²')
    expect(w.valueLabel('x', true)).toBe('yes')
    expect(w.valueLabel('x', [])).toBe('none of these')
    expect(w.valueLabel('past-causes', ['dollar-spot'])).toBe('Dollar spot')
  })
})
