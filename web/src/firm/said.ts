import type { Schemas } from '../api/client'
import type { Behind } from './Figures'

/** What each part of the figures is given. */
export interface FigurePart {
  f: Schemas['Figures']
  onOpen: (b: Behind) => void
}

/** A share as a whole number of per cent: a count of few cases needs no more. */
export const whole = (share: number): number => Math.round(share * 100)

export const tenth = (x: number): number => Math.round(x * 10) / 10

/** Two ends of an interval, where they differ. */
export const between = (low: number, high: number): string => (low === high ? '' : `between ${low} and ${high}`)

/** A share in words: "7 of 9 (45 to 94 %)". */
export const shareSaid = (s: Schemas['Share']): string =>
  s.n === 0 ? 'none yet' : `${s.of} of ${s.n} (${whole(s.low)} to ${whole(s.high)} %)`
