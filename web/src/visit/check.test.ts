import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { choicesOf, differenceSaid } from './Check'
import { answerAt, answerKeys } from './keys'

const finding = (kind: Schemas['VFinding']['kind'], ids: string[]): Schemas['VFinding'] => ({
  id: 'x',
  station: 'walk',
  procedure: 'walk',
  kind,
  label: 'X',
  ask: '',
  unit: '',
  measure: '',
  min: 0,
  max: 0,
  step: 1,
  bands: [],
  minutes: 1,
  steers: false,
  both: false,
  apart: false,
  values: ids.map((id) => ({ id, label: id })),
})

describe('answers of a check', () => {
  it('choose one, and take it back by choosing it again', () => {
    const f = finding('one-of', ['a', 'b'])
    expect(choicesOf(f, 'a', [])).toMatchObject([
      { id: 'a', on: true, value: null },
      { id: 'b', on: false, value: 'b' },
    ])
  })
  it('keep "not asked", "no" and "yes" apart', () => {
    const f = finding('yes-no', [])
    expect(choicesOf(f, undefined, []).map((c) => c.on)).toEqual([false, false])
    expect(choicesOf(f, false, []).map((c) => c.on)).toEqual([false, true])
  })
  it('build a list, and tell an empty list from no answer', () => {
    const f = finding('any-of', ['a', 'b'])
    expect(choicesOf(f, ['a'], [])[1]?.value).toEqual(['a', 'b'])
    expect(choicesOf(f, ['a'], [])[0]?.value).toBeNull()
    expect(choicesOf(f, [], []).at(-1)).toMatchObject({ id: 'none', on: true, value: null })
    expect(choicesOf(f, undefined, []).at(-1)).toMatchObject({ on: false, value: [] })
  })
  it('say "none" with the id where the vocabulary has one', () => {
    const f = finding('any-of', ['none', 'a'])
    expect(choicesOf(f, undefined, []).at(-1)?.value).toEqual(['none'])
    expect(choicesOf(f, ['none'], [])[0]?.value).toEqual(['a'])
  })
})

it('no answer key leads somewhere else', () => {
  for (const k of ['j', 'k', 'l', 'n', 'p', 'z', '0', '[', ']']) expect(answerKeys).not.toContain(k)
  expect(new Set(answerKeys).size).toBe(answerKeys.length)
  expect(answerAt('Q')).toBe(9)
})

describe('what lies between the bad and the good spot', () => {
  const number = { ...finding('number', []), measure: 'mm' }
  const word = finding('one-of', ['dry', 'moist'])
  it('is a figure with its unit, in the units of whoever reads', () => {
    expect(differenceSaid(number, 30, 150, 'metric')).toBe('120 mm less at the bad spot.')
    expect(differenceSaid(number, 76.2, 25.4, 'us')).toBe('2 in more at the bad spot.')
    expect(differenceSaid(number, 30, 30, 'metric')).toBe('Same at both spots.')
  })
  it('or whether words are the same', () => {
    expect(differenceSaid(word, 'dry', 'moist', 'metric')).toBe('Different at the two spots.')
    expect(differenceSaid(word, 'dry', 'dry', 'metric')).toBe('Same at both spots.')
  })
  it('is nothing while one is missing', () => {
    expect(differenceSaid(number, 30, undefined, 'metric')).toBe('')
    expect(differenceSaid(number, null, 30, 'metric')).toBe('')
  })
})
