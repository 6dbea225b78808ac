import { describe, expect, it } from 'vitest'
import { lengths, lengthUnit, scaleBar, walkedOn } from './steps'

describe('lengths', () => {
  it('are paces, or the unit of the tape', () => {
    expect(lengths(['20', '10'], false, 0.8, 'metric')).toEqual({ m: [16, 8], wrong: -1 })
    expect(lengths(['20'], true, 0.8, 'metric').m).toEqual([20])
    expect(lengths(['10'], true, 0.8, 'us').m[0]).toBeCloseTo(3.048, 6)
    expect(lengthUnit(false, 'us')).toBe('paces')
    expect(lengthUnit(true, 'us')).toBe('ft')
  })
  it('name the one that is none', () => {
    expect(lengths(['20', ''], false, 0.8, 'metric').wrong).toBe(1)
    expect(lengths(['-3', '4'], true, 0.8, 'metric').wrong).toBe(0)
  })
})

it('adds nothing while one stands still', () => {
  const at = (longitude: number, latitude: number) => ({ longitude, latitude, accuracy_m: 4 })
  let line = walkedOn([], at(-78, 37))
  line = walkedOn(line, at(-78.000005, 37))
  expect(line).toHaveLength(1)
  line = walkedOn(line, at(-78.00002, 37))
  expect(line).toHaveLength(2)
})

it('shows a round length as a scale', () => {
  expect(scaleBar(60, 'metric')).toEqual({ m: 10, label: '10 m' })
  expect(scaleBar(27, 'metric').label).toBe('5 m')
  const feet = scaleBar(60, 'us')
  expect(feet.label).toBe('20 ft')
  expect(feet.m).toBeCloseTo(6.096, 3)
})
