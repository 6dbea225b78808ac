import { describe, expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { length, patchWidth, reasonOf, sumOf } from './says'

const read: Schemas['PatternRead'] = {
  percent: 71.6,
  loss_percent: 12.4,
  patches: [],
  patch_count: 3,
  diameter_m: 1.87,
  roundness: 0.9,
  arrangement: '',
  near: [{ place: 'hard-edge', damage_share: 0.816, lawn_share: 0.22, chance: 0.01 }],
  proposals: [],
}

describe('why a value is proposed', () => {
  it('tells both shares of a place', () => {
    const p = { finding: 'pattern', value: 'along-hardscape', strength: 0.6, reason: 'place', place: 'hard-edge' } as const
    expect(reasonOf(p, read)).toBe('82 % of the damage is along a drive, path or wall; only 22 % of the lawn is.')
    expect(reasonOf({ ...p, place: 'tree' }, read)).toBe('')
  })
  it('tells the share for what covers the lawn, else the shape', () => {
    expect(reasonOf({ finding: 'pattern', value: 'uniform', strength: 0.7, reason: 'cover' }, read)).toBe('72 % of the lawn shows it.')
    expect(reasonOf({ finding: 'pattern', value: 'wheel-tracks', strength: 1, reason: 'pair' }, read)).toContain('wheel track')
  })
})

it('sums up in the units of whoever reads', () => {
  expect(sumOf(read, 'metric')).toBe('3 patches, half of it in patches 2 m wide or more, about 12 % of the cover lost.')
  expect(sumOf({ ...read, patch_count: 1, diameter_m: 0 }, 'us')).toBe('1 patch, about 12 % of the cover lost.')
  expect(sumOf({ ...read, arrangement: 'even' }, 'us')).toContain('6 ft wide or more, evenly spaced')
  expect(sumOf({ ...read, patch_count: 0 }, 'us')).toBe('')
  expect(length(13.4, 'metric')).toBe('13 m')
})

it('offers a width only where squares can tell it', () => {
  expect(patchWidth(read)).toBe(190)
  expect(patchWidth({ ...read, diameter_m: 0 })).toBeUndefined()
})
