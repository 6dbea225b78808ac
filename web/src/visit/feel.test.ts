import { expect, it } from 'vitest'
import type { Schemas } from '../api/client'
import { askNext, textureBy } from './feel'

const rows: Schemas['VFeel'][] = [
  { ball: true, ribbon_mm: 50, feel: '', texture: 'clay' },
  { ball: true, ribbon_mm: 25, feel: '', texture: 'clay-loam' },
  { ball: true, ribbon_mm: 5, feel: 'gritty', texture: 'sandy-loam' },
  { ball: true, ribbon_mm: 5, feel: 'smooth', texture: 'silt-loam' },
  { ball: true, ribbon_mm: 5, feel: 'neither', texture: 'loam' },
  { ball: true, ribbon_mm: 0, feel: '', texture: 'loamy-sand' },
  { ball: false, ribbon_mm: 0, feel: '', texture: 'sand' },
]

it('asks only for what is still open', () => {
  expect(askNext({})).toBe('ball')
  expect(askNext({ ball: false })).toBeUndefined()
  expect(askNext({ ball: true })).toBe('ribbon')
  expect(askNext({ ball: true, ribbon: 0 })).toBeUndefined()
  expect(askNext({ ball: true, ribbon: 15 })).toBe('feel')
  expect(askNext({ ball: true, ribbon: 35 })).toBeUndefined()
})

it('comes to the texture by the rows of the core', () => {
  expect(textureBy({ ball: true }, rows)).toBeUndefined()
  expect(textureBy({ ball: false }, rows)).toBe('sand')
  expect(textureBy({ ball: true, ribbon: 0 }, rows)).toBe('loamy-sand')
  expect(textureBy({ ball: true, ribbon: 15, feel: 'smooth' }, rows)).toBe('silt-loam')
  expect(textureBy({ ball: true, ribbon: 35 }, rows)).toBe('clay-loam')
  expect(textureBy({ ball: true, ribbon: 60 }, rows)).toBe('clay')
})
