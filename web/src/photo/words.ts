import type { Schemas } from '../api/client'

const faults: Partial<Record<string, string>> = {
  dark: 'too dark',
  blown: 'too bright in places',
  uneven: 'light and shadow side by side',
  tilted: 'not from straight above',
}

/** Why a picture does not count, in words; nothing when it does. */
export function faultsSaid(list: string[]): string {
  const known = list.flatMap((f) => faults[f] ?? [])
  return known.length ? `Not counted: ${known.join(', ')}.` : ''
}

/** A share with what it may be off by, whole per cent. */
export const shareSaid = (share: number, off: number): string => `${Math.round(share * 100)} % ± ${Math.max(1, Math.round(off * 100))}`

const spots = { '': 'the zone', worst: 'the bad spot', healthy: 'the good spot' }

/** What pictures come to together. */
export function sumSaid(s: Schemas['PhotoSum']): string {
  const what = s.about === 'moss' ? 'Moss' : 'Green cover'
  return `${what} of ${spots[s.spot]}: ${shareSaid(s.cover, s.error)} from ${s.of === 1 ? 'one picture' : `${s.of} pictures`}`
}

/** How far the camera is off from straight down, degrees, by what a device tells of how it is held. */
export function tiltOf(beta: number, gamma: number): number {
  const rad = Math.PI / 180
  return (Math.acos(Math.min(1, Math.max(-1, Math.cos(beta * rad) * Math.cos(gamma * rad)))) * 180) / Math.PI
}
