import type { Schemas } from '../api/client'
import { fromSI, percent, unitFor, type UnitSystem } from '../format'

type Read = Schemas['PatternRead']
type Proposal = Schemas['PatternProposal']

const places: Record<Schemas['NearRead']['place'], string> = {
  'hard-edge': 'along a drive, path or wall',
  tree: 'under trees',
  throw: 'beyond the reach of the sprinklers',
  'slope-foot': 'at the foot of the slope',
  slope: 'on the slope',
  buried: 'over what is buried',
}

const shapes: Record<Exclude<Proposal['reason'], 'place' | 'cover'>, string> = {
  ring: 'Patches form rings around healthy grass.',
  round: 'Most of the damage is in round patches.',
  ragged: 'Most of the damage is in patches with ragged edges.',
  line: 'Most of the damage is in long, narrow streaks.',
  parallel: 'Streaks run side by side, evenly spaced.',
  pair: 'Two streaks run side by side, a wheel track apart.',
  speckled: 'Single spots all over, in no pattern.',
}

/** Why a value is proposed, in a sentence. */
export function reasonOf(p: Proposal, r: Read): string {
  if (p.reason === 'cover') return `${Math.round(r.percent)} % of the lawn shows it.`
  if (p.reason !== 'place') return shapes[p.reason]
  const near = r.near.find((n) => n.place === p.place)
  return near
    ? `${percent(near.damage_share)} % of the damage is ${places[near.place]}; only ${percent(near.lawn_share)} % of the lawn is.`
    : ''
}

/** A length in the reader's units, no finer than a grid tells it. */
export function length(m: number, units: UnitSystem): string {
  const x = fromSI(m, 'm', units)
  return `${x < 10 ? Math.round(x * 2) / 2 : Math.round(x)} ${unitFor('m', units)?.label ?? 'm'}`
}

const arranged = { clumped: 'clustered', even: 'evenly spaced', random: 'scattered' }

/** What the marks come to, in a line. */
export function sumOf(r: Read, units: UnitSystem): string {
  if (r.patch_count === 0) return ''
  const parts = [`${r.patch_count} ${r.patch_count === 1 ? 'patch' : 'patches'}`]
  if (r.diameter_m > 0)
    parts.push(
      r.patch_count === 1 ? `${length(r.diameter_m, units)} wide` : `half of it in patches ${length(r.diameter_m, units)} wide or more`,
    )
  if (r.arrangement) parts.push(arranged[r.arrangement])
  parts.push(`about ${Math.round(r.loss_percent)} % of the cover lost`)
  return `${parts.join(', ')}.`
}

/** Usual width of a patch in cm, as the check asks for it; undefined where squares are too coarse to tell. */
export const patchWidth = (r: Read): number | undefined => (r.diameter_m > 0 ? Math.round(r.diameter_m * 10) * 10 : undefined)
