import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { showDate, type DateForm } from '../format'
import type { Answered, Plain, Rival } from './Check'
import { healthy } from './useAnswers'

export interface Offered {
  key: string
  from: string
  says: string
  value: Plain
}

/** What records, former visits and other zones say of each check, with where it is from. */
export function offersBy(offers: Schemas['Offer'][], zones: Schemas['Zone'][], words: Words, form: DateForm): Map<string, Offered[]> {
  const out = new Map<string, Offered[]>()
  for (const o of offers) {
    const check = o.spot === 'healthy' ? o.finding + healthy : o.finding
    if (o.spot === 'healthy' && !words.finding.get(o.finding)?.both) continue
    const from =
      o.source === 'zone'
        ? `As on the ${zones.find((z) => z.id === o.zone_id)?.name ?? 'other zone'}`
        : o.source === 'records'
          ? `By the records, ${showDate(o.on, form)}`
          : o.source === 'client'
            ? `The client says, ${showDate(o.on, form)}`
            : o.source === 'firm'
              ? 'By your other lawns of this grass'
              : `As on ${showDate(o.on, form)}`
    const says = words.valueLabel(o.finding, o.value)
    const list = out.get(check) ?? []
    list.push({ key: `${o.source}${o.zone_id ?? ''}`, from, says, value: o.value as Plain })
    out.set(check, list)
  }
  return out
}

/** The answers that one press takes over: of records, or of one former visit or zone; what is answered already stays. */
export function takenOver(
  offers: Schemas['Offer'][],
  source: Schemas['Offer']['source'],
  answered: (check: string) => boolean,
): { check: string; value: Plain }[] {
  return offers
    .filter((o) => o.source === source && o.spot === 'worst' && !answered(o.finding))
    .map((o) => ({ check: o.finding, value: o.value as Plain }))
}

/** The standing answer and what somebody else said meanwhile; nothing where nobody did, or where this device has answered since. */
export function rivalsOf(a: Answered | undefined, finding: string, words: Pick<Words, 'valueLabel'>): Rival[] | undefined {
  if (!a?.other || a.state !== 'saved') return undefined
  const rival = (by: string, value: unknown) => ({ by, says: words.valueLabel(finding, value), value: value as Plain })
  return [rival(a.by, a.value), rival(a.other.by, a.other.value)]
}
