import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { changeSaid, firstPair, pairable } from './pairs'

const photo = (id: string, on: string, more: Partial<Schemas['Photo']> = {}): Schemas['Photo'] => ({
  id,
  visit_id: 'v',
  zone_id: 'z',
  taken_at: `${on}T15:00:00Z`,
  by: 'Tam',
  kind: 'measure',
  about: 'cover',
  spot: 'worst',
  note: '',
  width: 4,
  height: 3,
  wanted: { hue_low: 60, hue_high: 120, saturation: 0.1 },
  cover: 0.5,
  error: 0.02,
  index: 0.5,
  faults: [],
  ...more,
})

describe('two pictures', () => {
  const list = [photo('c', '2026-07-14'), photo('a', '2026-04-28'), photo('h', '2026-04-29', { spot: 'healthy' }), photo('b', '2026-06-09')]
  it('are the first and the last of the bad spot', () => {
    const pair = firstPair(list)
    expect([pair?.before.id, pair?.after.id]).toEqual(['a', 'c'])
    expect(pairable(list, 'worst').map((p) => p.id)).toEqual(['a', 'b', 'c'])
  })
  it('of one day are no pair', () => {
    expect(firstPair([photo('a', '2026-04-28'), photo('b', '2026-04-28')])).toBeUndefined()
    expect(firstPair([])).toBeUndefined()
  })
})

describe('what has changed', () => {
  const before = photo('a', '2026-04-28')
  it('is told where the pictures can tell it', () => {
    expect(changeSaid({ before, after: photo('b', '2026-07-14', { cover: 0.81, index: 0.56 }) })).toEqual([
      'Green cover up by 31 points.',
      'Darker green than before.',
    ])
    expect(changeSaid({ before, after: photo('b', '2026-07-14', { cover: 0.51, index: 0.51 }) })).toEqual([
      'Green cover: no change that the pictures could tell.',
      'Colour about the same.',
    ])
    expect(changeSaid({ before, after: photo('b', '2026-07-14', { cover: 0.3, index: 0.4 }) })).toEqual([
      'Green cover down by 20 points.',
      'Paler than before.',
    ])
  })
  it('leaves colours alone in unlike light, and moss apart from cover', () => {
    expect(changeSaid({ before, after: photo('b', '2026-07-14', { about: 'moss', faults: ['uneven'] }) })).toEqual([
      'The light differs too much to compare colours.',
    ])
  })
})
