import { describe, expect, it } from 'vitest'
import { daysBetween, fromSI, percent, readDate, reader, readNumber, show, showDate, figure, toSI, unitFor } from './format'

describe('dates', () => {
  it('follow the form of the firm', () => {
    expect(showDate('2026-08-04', 'dmy')).toBe('4 Aug 2026')
    expect(showDate('2026-08-04', 'mdy')).toBe('Aug 4, 2026')
    expect(showDate('2026-08-04', 'ymd')).toBe('2026-08-04')
    expect(showDate('2026-08-24', 'dmy', true)).toBe('Mon 24 Aug 2026')
    expect(showDate(undefined)).toBe('')
  })
  it('count days across a change of clocks', () => expect(daysBetween('2026-03-20', '2026-04-05')).toBe(16))
})

describe('quantities', () => {
  it('go both ways without loss', () => {
    for (const [unit, value] of [
      ['mm', 63.5],
      ['C', 29.4],
      ['m2', 310],
      ['g/m2', 4.9],
    ] as const)
      expect(toSI(fromSI(value, unit, 'us'), unit, 'us')).toBeCloseTo(value, 9)
  })
  it('meet the published factors', () => {
    expect(toSI(1, 'mm', 'us')).toBe(25.4)
    expect(toSI(85, 'C', 'us')).toBeCloseTo(29.444, 3)
    expect(toSI(1, 'g/m2', 'us')).toBeCloseTo(4.882, 3)
    expect(show(92.90304, 'm2', 'us')).toBe('1,000 ft²')
  })
  it('know which findings have a customary unit', () => {
    expect(unitFor('d', 'us')).toBeUndefined()
    expect(figure(96, '1/m2', 'us')).toBe('8.92 per ft²')
    expect(figure(25.4, 'cm', 'us')).toBe('10 in')
    expect(figure(27.456, 'C', 'metric')).toBe('27.46 °C')
    expect(figure(6.4, '', 'us')).toBe('6.4')
  })
})

describe('numbers as typed', () => {
  it.each([
    ['12', 12],
    ['2,5', 2.5],
    ['-3', -3],
    ['.5', 0.5],
  ])('%s', (text, n) => expect(readNumber(text)).toBe(n))
  it.each(['', 'abc', '1e5', '1.2.3', 'Infinity', '--1'])('refuses %s', (text) => expect(readNumber(text)).toBeUndefined())
})

it('never shows certainty that is not there', () => {
  expect(percent(0.999)).toBe('>99')
  expect(percent(0.004)).toBe('<1')
  expect(percent(0.5)).toBe('50')
})

describe('a reader', () => {
  it('has temperatures and depths in one system', () => {
    const si = reader('metric')
    expect([si.c(20), si.depth(12.6), si.depth(12.6, true), si.temperature, si.water]).toEqual([20, '13', '12.6', '°C', 'mm'])
    const us = reader('us')
    expect([us.tight(2), us.tight(30), si.tight(0.4, true), si.tight(12)]).toEqual(['.08', '1.18', '.4', '12'])
    expect([us.c(20), us.depth(12.7), us.depth(12.7, true), us.temperature, us.water]).toEqual([68, '0.50', '0.50', '°F', 'in'])
  })
  it('keeps wind, rate and volume to their factors', () => {
    expect(fromSI(4.4704, 'm/s', 'us')).toBeCloseTo(10, 9)
    expect(fromSI(25.4, 'mm/h', 'us')).toBeCloseTo(1, 9)
    expect(fromSI(3.785411784, 'L', 'us')).toBeCloseTo(1, 9)
  })
})

describe('a day as it is typed', () => {
  it.each([
    ['24 Aug 2026', 'dmy', '2026-08-24'],
    ['24/8/2026', 'dmy', '2026-08-24'],
    ['8/24/2026', 'mdy', '2026-08-24'],
    ['Aug 24, 2026', 'mdy', '2026-08-24'],
    ['2026-08-24', 'dmy', '2026-08-24'],
    ['24.8.26', 'dmy', '2026-08-24'],
    ['august 24 2026', 'dmy', '2026-08-24'],
    ['3 4 2026', 'dmy', '2026-04-03'],
    ['3 4 2026', 'mdy', '2026-03-04'],
    ['Mon 24 Aug 2026', 'dmy', '2026-08-24'],
    ['31/2/2026', 'dmy', undefined],
    ['8/24/2026', 'dmy', undefined],
    ['24 Aug', 'dmy', undefined],
    ['soon', 'ymd', undefined],
    ['24 Aug 20264', 'dmy', undefined],
  ] as const)('reads %s in the form %s', (text, form, want) => expect(readDate(text, form)).toBe(want))
})

describe('a number as it is typed', () => {
  it.each([
    ['5,000', 5000],
    ['1,076', 1076],
    ['1,234,567.5', 1234567.5],
    ['2,5', 2.5],
    ['0,125', 0.125],
    ['12,34', 12.34],
    ['5,00', 5],
    ['1,07,6', undefined],
  ] as const)('reads %s', (text, want) => expect(readNumber(text)).toBe(want))
})
