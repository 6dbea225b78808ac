import { expect, it } from 'vitest'
import { sizeFor } from './reduce'
import { faultsSaid, shareSaid, sumSaid, tiltOf } from './words'

it('says why a picture does not count', () => {
  expect(faultsSaid(['tilted', 'dark'])).toBe('Not counted: not from straight above, too dark.')
  expect(faultsSaid([])).toBe('')
  expect(faultsSaid(['unheard'])).toBe('')
})

it('never claims to be exact', () => {
  expect(shareSaid(0.541, 0.002)).toBe('54 % ± 1')
  expect(sumSaid({ about: 'cover', spot: 'worst', of: 3, cover: 0.54, error: 0.12, index: 0.5 })).toBe(
    'Green cover of the bad spot: 54 % ± 12 from 3 pictures',
  )
  expect(sumSaid({ about: 'moss', spot: '', of: 1, cover: 0.2, error: 0.1, index: 0 })).toBe('Moss of the zone: 20 % ± 10 from one picture')
})

it('knows how far a camera is off straight down', () => {
  expect(tiltOf(0, 0)).toBeCloseTo(0)
  expect(tiltOf(90, 0)).toBeCloseTo(90)
  expect(tiltOf(10, 0)).toBeCloseTo(10)
  expect(tiltOf(30, 40)).toBeCloseTo((Math.acos(Math.cos(Math.PI / 6) * Math.cos((40 * Math.PI) / 180)) * 180) / Math.PI)
  expect(tiltOf(180, 0)).toBeCloseTo(180)
})

it('reduces a large picture and leaves a small one', () => {
  expect(sizeFor(4000, 3000)).toEqual([1632, 1224])
  expect(sizeFor(640, 480)).toEqual([640, 480])
  expect(sizeFor(20_000, 1)).toEqual([20_000, 1])
})
