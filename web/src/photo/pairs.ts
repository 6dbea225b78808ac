import type { Schemas } from '../api/client'

type Photo = Schemas['Photo']

/** Two pictures side by side: the earlier and the later. */
export interface Pair {
  before: Photo
  after: Photo
}

/** What can be laid side by side: pictures of one kind of spot, measured or for show, that were taken on different days. */
export function pairable(list: Photo[], spot: Photo['spot']): Photo[] {
  return list.filter((p) => p.spot === spot).sort((a, b) => a.taken_at.localeCompare(b.taken_at))
}

/** The pair that tells most: the first and the last of the bad spot, else of whatever spot has two. */
export function firstPair(list: Photo[]): Pair | undefined {
  for (const spot of ['worst', '', 'healthy'] as const) {
    const own = pairable(list, spot)
    const before = own[0]
    const after = own.at(-1)
    if (before && after && before.taken_at.slice(0, 10) !== after.taken_at.slice(0, 10)) return { before, after }
  }
  return undefined
}

/**
 * How far two pictures may differ in light before their colours are not compared, by the part of each that is too dark or bright to
 * say.
 */
const unlike = (p: Pair): boolean => p.before.faults.length > 0 || p.after.faults.length > 0

/** What has changed from one to the other, in words; colours only where the light was good in both. */
export function changeSaid(p: Pair): string[] {
  const out: string[] = []
  const { before, after } = p
  if (before.cover !== undefined && after.cover !== undefined && before.about === after.about) {
    const by = Math.round(after.cover * 100) - Math.round(before.cover * 100)
    const off = Math.hypot(before.error ?? 0, after.error ?? 0) * 100
    const what = before.about === 'moss' ? 'Moss' : 'Green cover'
    out.push(
      Math.abs(by) <= off
        ? `${what}: no change that the pictures could tell.`
        : `${what} ${by > 0 ? 'up' : 'down'} by ${Math.abs(by)} points.`,
    )
  }
  if (unlike(p)) out.push('The light differs too much to compare colours.')
  else if (before.index && after.index) {
    const by = after.index - before.index
    out.push(Math.abs(by) < 0.02 ? 'Colour about the same.' : by > 0 ? 'Darker green than before.' : 'Paler than before.')
  }
  return out
}
