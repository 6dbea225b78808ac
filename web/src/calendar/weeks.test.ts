import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { later, monday, weeks } from './weeks'

const job = (id: string, due_on: string, minutes = 30) => ({ id, due_on, minutes }) as Schemas['Job']

describe('weeks of the calendar', () => {
  it('begin on Monday, over months and years', () => {
    expect(monday('2026-08-24')).toBe('2026-08-24')
    expect(monday('2026-08-30')).toBe('2026-08-24')
    expect(monday('2027-01-01')).toBe('2026-12-28')
    expect(later('2026-12-31', 1)).toBe('2027-01-01')
    expect(later('2026-03-01', -1)).toBe('2026-02-28')
  })
  it('are named from today, with late ones first', () => {
    const list = weeks(
      [job('a', '2026-08-20'), job('b', '2026-08-25'), job('c', '2026-08-25', 45), job('d', '2026-09-01'), job('e', '2026-09-20')],
      '2026-08-24',
    )
    expect(list.map((w) => [w.name, w.jobs.length, w.minutes])).toEqual([
      ['late', 1, 30],
      ['this', 2, 75],
      ['next', 1, 30],
      ['2026-09-14', 1, 30],
    ])
    expect(list[1]?.days).toHaveLength(1)
    expect(weeks([], '2026-08-24')).toEqual([])
  })
})
