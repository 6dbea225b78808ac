import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { grouped } from './grouped'

const notice = (over: Partial<Schemas['DayNotice']>): Schemas['DayNotice'] => ({
  id: Math.random().toString(),
  site_id: 's',
  zone_id: 'z',
  site_name: 'S',
  zone_name: 'Z',
  kind: 'window',
  subject: 'dollar-spot',
  label: 'Dollar spot',
  level: 1,
  since: '2026-08-20',
  ahead: false,
  reason: 'on 7 of 7 days',
  told_on: '2026-08-24',
  new: true,
  noted_by: '',
  ...over,
})

describe('what the watch tells', () => {
  it('is put together by what it is, in the order in which it comes', () => {
    const g = grouped([notice({ kind: 'endurance', subject: '' }), notice({}), notice({ zone_id: 'y' })])
    expect(g.map((x) => [x.key, x.notices.length])).toEqual([
      ['endurance ', 1],
      ['window dollar-spot', 2],
    ])
  })
  it('says a reason once where all share it, and puts lawns that had it before first', () => {
    const [g] = grouped([notice({ zone_id: 'a' }), notice({ zone_id: 'b', level: 2, reason: 'on 7 of 7 days' })])
    expect(g?.reason).toBe('on 7 of 7 days')
    expect(g?.level).toBe(2)
    expect(g?.notices.map((n) => n.zone_id)).toEqual(['b', 'a'])
  })
  it('leaves each lawn its own reason where they differ, and a single one its own', () => {
    expect(grouped([notice({ reason: '12 days' }), notice({ reason: '20 days' })])[0]?.reason).toBe('')
    expect(grouped([notice({})])[0]?.reason).toBe('')
    expect(grouped([])).toEqual([])
  })
})
