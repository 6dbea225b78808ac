import type { Schemas } from '../api/client'

/** What somebody has felt so far of a lump of moist soil. */
export interface Felt {
  ball?: boolean
  ribbon?: number
  feel?: 'gritty' | 'smooth' | 'neither'
}

/** From how long on a lump is said to ribbon at all, mm. */
const ribbons = 5

/** What to ask next: does it hold, how long is the ribbon, how does it feel; nothing once the texture is known. */
export function askNext(felt: Felt): keyof Felt | undefined {
  if (felt.ball === undefined) return 'ball'
  if (!felt.ball) return undefined
  if (felt.ribbon === undefined) return 'ribbon'
  return felt.ribbon >= ribbons && felt.ribbon < 25 && felt.feel === undefined ? 'feel' : undefined
}

/** The texture by the core's rows: the first that fits. */
export function textureBy(felt: Felt, rows: Schemas['VFeel'][]): string | undefined {
  if (askNext(felt) !== undefined) return undefined
  return rows.find(
    (r) => r.ball === felt.ball && (!felt.ball || (felt.ribbon ?? 0) >= r.ribbon_mm) && (r.feel === '' || r.feel === felt.feel),
  )?.texture
}
