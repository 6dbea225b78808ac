import { expect, it } from 'vitest'
import { across, knownThings, type Stretch } from './scale'

const line = (x1: number, y1: number, x2: number, y2: number): Stretch => ({ from: { x: x1, y: y1 }, to: { x: x2, y: y2 } })
const picture = { width: 2000, height: 1000 }

it('measures by a thing of known length, whichever way both lie', () => {
  // the card is 200 points long, the patch 1,000: across 0.5 of the width, or all of the height
  const card = line(0.1, 0.1, 0.2, 0.1)
  expect(across(card, 8.56, line(0.2, 0.5, 0.7, 0.5), picture)?.cm).toBeCloseTo(42.8)
  expect(across(card, 8.56, line(0.5, 0, 0.5, 1), picture)?.cm).toBeCloseTo(42.8)
  expect(across(line(0.5, 0.1, 0.5, 0.3), 8.56, line(0.7, 0.5, 0.2, 0.5), picture)?.cm).toBeCloseTo(42.8)
})

it('says how far off that is: short things more, and at a slant more', () => {
  const far = across(line(0.1, 0.1, 0.6, 0.1), 30, line(0.2, 0.5, 0.7, 0.5), picture)
  const near = across(line(0.1, 0.1, 0.15, 0.1), 3, line(0.2, 0.5, 0.7, 0.5), picture)
  expect(far?.cm).toBeCloseTo(30)
  expect(near?.cm).toBeCloseTo(30)
  expect(far?.off).toBeCloseTo(30 * 0.04, 2) // a hundredth at each of four ends of half the picture
  expect(near?.off).toBeGreaterThan(8)
  const slanted = across(line(0.1, 0.1, 0.6, 0.1), 30, line(0.2, 0.5, 0.7, 0.5), picture, 60)
  expect(slanted?.off).toBeCloseTo(30 * 0.54, 2)
})

it('says nothing of what is too short or has no length', () => {
  const dot = line(0.1, 0.1, 0.11, 0.1)
  const wide = line(0, 0, 1, 0)
  expect(across(dot, 8, wide, picture)).toBeUndefined()
  expect(across(wide, 8, dot, picture)).toBeUndefined()
  expect(across(wide, 0, wide, picture)).toBeUndefined()
  expect(across(wide, NaN, wide, picture)).toBeUndefined()
  for (const t of knownThings) expect(t.cm).toBeGreaterThan(5)
})
