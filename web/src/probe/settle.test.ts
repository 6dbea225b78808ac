import { describe, expect, it } from 'vitest'
import { settling, type Reading } from './settle'

/** Readings of something that nears an end value with a time constant, twice a second. */
const nears = (from: number, to: number, tau: number, seconds: number): Reading[] =>
  Array.from({ length: seconds * 2 + 1 }, (_, i) => ({ at: i * 500, value: to + (from - to) * Math.exp(-i / 2 / tau) }))

describe('a stream of readings', () => {
  it('is nothing before the first', () => expect(settling([], 'C')).toBeUndefined())
  it('stands still when it has not moved for long enough, and not before', () => {
    const still = (seconds: number) => settling(nears(20, 20, 1, seconds), 'C')
    expect(still(19)).toMatchObject({ settled: false, left: undefined })
    expect(still(20)).toEqual({ value: 20, settled: true, left: 0 })
    expect(settling(nears(20, 20, 1, 5), '%')?.settled).toBe(true)
  })
  it('moves as long as its span is too wide', () => {
    const drift = (perSecond: number) => Array.from({ length: 61 }, (_, i) => ({ at: i * 500, value: 10 + (perSecond * i) / 2 }))
    expect(settling(drift(0.0099), 'C')?.settled).toBe(true)
    expect(settling(drift(0.011), 'C')?.settled).toBe(false)
    expect(settling(drift(0.19), '%')?.settled).toBe(true)
    expect(settling(drift(0.21), '%')?.settled).toBe(false)
  })
  it('says how long it will still move, from how it has been moving', () => {
    // from 34 to 20 °C with 15 s: the span of 20 s is 14·e^(−t/15)·(e^(20/15) − 1), which is 0.2 at 79 s
    const at45 = settling(nears(34, 20, 15, 45), 'C')
    expect(at45?.settled).toBe(false)
    expect(at45?.left).toBeGreaterThan(29_000)
    expect(at45?.left).toBeLessThan(39_000)
    expect(settling(nears(34, 20, 15, 80), 'C')?.settled).toBe(true)
    expect(settling(nears(34, 20, 15, 30), 'C')?.left, 'too early to say').toBeUndefined()
  })
  it('says nothing of one that moves faster and faster', () => {
    const away = Array.from({ length: 121 }, (_, i) => ({ at: i * 500, value: Math.exp(i / 30) }))
    expect(settling(away, 'C')?.left).toBeUndefined()
  })
  it('gives the mean of the last readings', () =>
    expect(
      settling(
        [1, 1, 9, 10, 11, 10, 10].map((value, i) => ({ value, at: i * 500 })),
        'C',
      )?.value,
    ).toBe(10))
})
