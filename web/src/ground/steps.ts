import type { Schemas } from '../api/client'
import { readNumber, toSI, unitFor, type UnitSystem } from '../format'

export type Shape = Schemas['SteppedShape']['shape']

/** Which lengths each shape is made of, in the order in which they are paced. */
export const sides: Record<Shape, readonly string[]> = {
  rectangle: ['Length', 'Width'],
  'l-shape': ['Whole length', 'Whole width', 'Length of the corner cut out', 'Width of the corner cut out'],
  triangle: ['First side', 'Second side', 'Third side'],
  circle: ['Width across'],
}

export const shapeNames = [
  ['rectangle', 'Rectangle'],
  ['l-shape', 'L-shape'],
  ['triangle', 'Triangle'],
  ['circle', 'Circle'],
] as const

/** How long a pace is until somebody has measured their own, m. */
export const usualPace = 0.75

/** Lengths in m of what was typed, as paces or in the reader's unit; which of them is no length, when one is none. */
export function lengths(typed: readonly string[], taped: boolean, pace: number, units: UnitSystem): { m: number[]; wrong: number } {
  const m = typed.map((t) => {
    const x = readNumber(t)
    if (x === undefined || x <= 0) return NaN
    return taped ? toSI(x, 'm', units) : x * pace
  })
  return { m, wrong: m.findIndex((x) => Number.isNaN(x)) }
}

/** What a length is typed in. */
export const lengthUnit = (taped: boolean, units: UnitSystem): string => (taped ? (unitFor('m', units)?.label ?? 'm') : 'paces')

/** A position is kept when one has gone on from the last by so much, m: standing still adds nothing. */
const least = 1

/** Adds a position that the device told to those walked, unless one stands where one stood. */
export function walkedOn(line: Schemas['WalkedPoint'][], at: Schemas['WalkedPoint']): Schemas['WalkedPoint'][] {
  const last = line.at(-1)
  if (!last) return [at]
  const north = (at.latitude - last.latitude) * 111_000
  const east = (at.longitude - last.longitude) * 111_000 * Math.cos((at.latitude * Math.PI) / 180)
  return Math.hypot(north, east) < least ? line : [...line, at]
}

/** The length of a scale bar that takes about a fifth of a width of so many m, round in the reader's unit: m and what stands at it. */
export function scaleBar(width: number, units: UnitSystem): { m: number; label: string } {
  const unit = unitFor('m', units)
  const one = toSI(1, 'm', units)
  const wanted = width / 5 / one
  const ten = 10 ** Math.floor(Math.log10(wanted))
  const n = [5, 2, 1].find((k) => k * ten <= wanted) ?? 1
  return { m: n * ten * one, label: `${n * ten} ${unit?.label ?? 'm'}` }
}
