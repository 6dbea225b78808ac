import type { Schemas } from '../api/client'
import { fromSI, readNumber, unitFor, type UnitSystem } from '../format'

type Field = Schemas['BenchField']

/** What stands in the fields: a number as typed with its unit, or a choice. Kept in the address, so that a sum can be sent and printed. */
export interface Typed {
  text: string
  unit: string
}
export type Sheet = Record<string, Typed>

/** Reads the fields out of an address: area=250~m2. */
export function fromAddress(search: URLSearchParams): Sheet {
  const out: Sheet = {}
  search.forEach((value, key) => {
    const [text = '', unit = ''] = value.split('~')
    out[key] = { text, unit }
  })
  return out
}

export function toAddress(sheet: Sheet): URLSearchParams {
  const out = new URLSearchParams()
  for (const [key, t] of Object.entries(sheet)) if (t.text !== '') out.set(key, t.unit ? `${t.text}~${t.unit}` : t.text)
  return out
}

export const chosen = (f: Field, sheet: Sheet): string => sheet[f.id]?.text || (f.choices?.[0]?.id ?? '')

/** The fields that are asked for with the choices that stand. */
export function asked(fields: Field[], sheet: Sheet): Field[] {
  return fields.filter((f) => {
    if (!f.when) return true
    const [on = '', value = ''] = f.when.split('=')
    const by = fields.find((x) => x.id === on)
    return by ? chosen(by, sheet) === value : true
  })
}

/** What is sent: numbers in the unit they were typed in. Whatever cannot be read, or is still missing, is named. */
export function entriesOf(
  fields: Field[],
  sheet: Sheet,
  system: UnitSystem,
): { entries: Record<string, Schemas['BenchEntry']>; missing: string[]; wrong: string[] } {
  const entries: Record<string, Schemas['BenchEntry']> = {}
  const missing: string[] = []
  const wrong: string[] = []
  for (const f of asked(fields, sheet)) {
    if (f.choices) {
      entries[f.id] = { choice: chosen(f, sheet) }
      continue
    }
    const typed = sheet[f.id]
    if (!typed || typed.text.trim() === '') {
      if (f.usual === undefined && !f.optional) missing.push(f.id)
      continue
    }
    const amount = readNumber(typed.text)
    if (amount === undefined) wrong.push(f.id)
    else entries[f.id] = { amount, unit: typed.unit || (unitFor(f.unit, system)?.id ?? '') }
  }
  return { entries, missing, wrong }
}

/** The address of a calculation with what is known of a zone entered, in the reader's units. */
export function benchOf(sum: Pick<Schemas['Sum'], 'calculation' | 'entries'>, fields: Field[], system: UnitSystem): string {
  const sheet: Sheet = {}
  for (const [id, e] of Object.entries(sum.entries)) {
    const unit = fields.find((f) => f.id === id)?.unit ?? ''
    const amount = Math.round(fromSI(e.amount ?? 0, unit, system) * 1000) / 1000
    sheet[id] = e.choice ? { text: e.choice, unit: '' } : { text: String(amount), unit: unitFor(unit, system)?.id ?? '' }
  }
  return `/bench/${sum.calculation}?${toAddress(sheet)}`
}

/**
 * The address of the check of a spreader after the first known area: what went in and what was planned are entered, in the reader's
 * units.
 */
export function firstAreaOf(job: { grams: number; rate: number; area: number }, system: UnitSystem): string {
  const typed = (x: number, unit: string): Typed => ({
    text: String(Number(fromSI(x, unit, system).toPrecision(4))),
    unit: unitFor(unit, system)?.id ?? unit,
  })
  const sheet = { start: typed(job.grams / 1000, 'kg'), want: typed(job.rate, 'g/m2'), area: typed(job.area, 'm2') }
  return `/bench/hopper?${toAddress(sheet)}`
}
