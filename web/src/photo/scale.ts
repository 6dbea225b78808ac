/** A place in a picture, as shares of its width and height. */
export interface Point {
  x: number
  y: number
}

/** From one place to another. */
export interface Stretch {
  from: Point
  to: Point
}

/**
 * Things that lie about and whose length is known, cm: a card by ISO/IEC 7810, paper by ISO 216 and ANSI, a tennis ball by the rules
 * of the game.
 */
export const knownThings = [
  { id: 'card', label: 'Bank card, long side', cm: 8.56 },
  { id: 'ball', label: 'Tennis ball', cm: 6.7 },
  { id: 'a4', label: 'A4 sheet, long side', cm: 29.7 },
  { id: 'letter', label: 'Letter sheet, long side', cm: 27.94 },
] as const

/** How far off the end of a stretch is that somebody drags over a picture, as a share of its longer side (judgement). */
const endOff = 0.01

/** A stretch shorter than this share of the longer side tells nothing. */
const least = 0.02

/**
 * How long a stretch of a picture is, cm, by a thing in it of a known length, with how far off that is. Both have to lie on the ground and
 * be seen from straight above: held at a slant (degrees), what lies along it is shortened by the cosine. Nothing where a stretch is too
 * short.
 */
export function across(
  known: Stretch,
  cm: number,
  what: Stretch,
  picture: { width: number; height: number },
  tilt = 0,
): { cm: number; off: number } | undefined {
  const long = Math.max(picture.width, picture.height)
  const length = (s: Stretch) => Math.hypot((s.to.x - s.from.x) * picture.width, (s.to.y - s.from.y) * picture.height) / long
  const k = length(known)
  const w = length(what)
  if (!(cm > 0) || k < least || w < least) return undefined
  const ends = Math.SQRT2 * endOff
  const share = Math.hypot(ends / k, ends / w) + (1 - Math.cos((tilt * Math.PI) / 180))
  const out = (cm * w) / k
  return { cm: out, off: out * share }
}
