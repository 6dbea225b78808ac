import table from './units.json'

/** How dates and quantities are shown: inside all is SI and ISO, outside it follows the person and the firm. */
export type DateForm = 'dmy' | 'mdy' | 'ymd'
export type UnitSystem = 'metric' | 'us'

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const days = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']

export function showDate(iso: string | undefined | null, form: DateForm = 'dmy', weekday = false): string {
  const m = /^(\d{4})-(\d{2})-(\d{2})/.exec(iso ?? '')
  if (!m) return ''
  const [, y = '', mo = '', d = ''] = m
  const month = months[Number(mo) - 1] ?? mo
  const text = form === 'ymd' ? `${y}-${mo}-${d}` : form === 'mdy' ? `${month} ${Number(d)}, ${y}` : `${Number(d)} ${month} ${y}`
  if (!weekday) return text
  return `${days[new Date(Date.UTC(Number(y), Number(mo) - 1, Number(d))).getUTCDay()] ?? ''} ${text}`
}

const monthNames = months.map((m) => m.slice(0, 3).toLowerCase())

/** Reads a day as people type it in the firm's form, or as YYYY-MM-DD in any; months may be words. Nothing comes back for anything else. */
export function readDate(text: string, form: DateForm): string | undefined {
  const parts = text
    .trim()
    .toLowerCase()
    .replace(/^[a-z]{2,9}\.?,? (?=\d)/, (w) => (monthNames.includes(w.slice(0, 3)) ? w : ''))
    .split(/[\s./,-]+/)
    .filter(Boolean)
  if (parts.length !== 3) return undefined
  const word = parts.findIndex((p) => monthNames.includes(p.slice(0, 3)))
  const order = /^\d{4}$/.test(parts[0] ?? '') ? 'ymd' : word === 0 ? 'mdy' : word === 1 ? 'dmy' : form
  const part = (k: string) => parts[order.indexOf(k)] ?? ''
  const month = monthNames.indexOf(part('m').slice(0, 3)) + 1 || Number(part('m'))
  const year = /^\d{2}$/.test(part('y')) ? 2000 + Number(part('y')) : /^\d{4}$/.test(part('y')) ? Number(part('y')) : NaN
  const day = /^\d{1,2}$/.test(part('d')) ? Number(part('d')) : NaN
  const at = new Date(Date.UTC(year, month - 1, day))
  if (Number.isNaN(at.getTime()) || at.getUTCMonth() !== month - 1 || at.getUTCDate() !== day) return undefined
  return at.toISOString().slice(0, 10)
}

/** A day so many days later. */
export function addDays(day: string, n: number): string {
  return new Date(Date.parse(day) + n * 86_400_000).toISOString().slice(0, 10)
}

export function daysBetween(from: string, to: string): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000)
}

export interface Unit {
  id: string
  label: string
  factor: number
  offset: number
  of: string
}
const known: Partial<Record<string, Omit<Unit, 'id'>>> = table.units
const customary: Partial<Record<string, string>> = table.us

/** The unit in which a quantity of the given metric unit is entered and shown: that unit or the customary one beside it. */
export function unitFor(metric: string, system: UnitSystem): Unit | undefined {
  const own = known[metric]
  const id = (system === 'us' ? customary[metric] : undefined) ?? metric
  const shown = known[id]
  return own && shown ? { ...shown, id, factor: shown.factor / own.factor } : undefined
}

/** Every unit that measures what a metric unit measures, the one of the unit system first. */
export function unitsLike(metric: string, system: UnitSystem): Unit[] {
  const of = known[metric]?.of
  const own = unitFor(metric, system)?.id
  return Object.entries(known)
    .flatMap(([id, u]) => (u && u.of === of ? [{ ...u, id }] : []))
    .sort((a, b) => Number(b.id === own) - Number(a.id === own) || a.factor - b.factor)
}

export function fromSI(value: number, siUnit: string, system: UnitSystem): number {
  const u = unitFor(siUnit, system)
  return u ? value / u.factor - u.offset : value
}

export function toSI(value: number, siUnit: string, system: UnitSystem): number {
  const u = unitFor(siUnit, system)
  return u ? (value + u.offset) * u.factor : value
}

export function show(value: number, siUnit: string, system: UnitSystem, digits = 0): string {
  const u = unitFor(siUnit, system)
  return `${fromSI(value, siUnit, system).toLocaleString('en', { maximumFractionDigits: digits })} ${u?.label ?? siUnit}`
}

/** A number with its unit as the system has it; a unit that the table does not know stands as it is. */
export function figure(value: number, metric: string, system: UnitSystem): string {
  const u = unitFor(metric, system)
  const x = u ? value / u.factor - u.offset : value
  const text = x.toLocaleString('en', { maximumFractionDigits: 2, useGrouping: Math.abs(x) >= 10_000 })
  return `${text} ${u?.label ?? metric}`.trim()
}

export function percent(p: number): string {
  if (p > 0 && p < 0.01) return '<1'
  if (p >= 0.995) return '>99' // nothing is ever certain
  return String(Math.round(p * 100))
}

export function signedBits(b: number): string {
  return `${b >= 0 ? '+' : '−'}${Math.abs(b).toFixed(1)}`
}

/**
 * Reads a number as people type it: a comma counts as a decimal point, or groups thousands as the screen does (1,076 and 1,076,000.5).
 * A comma before exactly three figures can be either: it groups, for that is how the screen writes, and a decimal comma with three
 * places is finer than anything here is entered. Nothing comes back for anything else.
 */
export function readNumber(text: string): number | undefined {
  const plain = text.trim().replace('−', '-')
  const t = /^-?[1-9]\d{0,2}(,\d{3})+(\.\d+)?$/.test(plain) ? plain.replaceAll(',', '') : plain.replace(',', '.')
  if (!/^-?\d+(\.\d+)?$|^-?\.\d+$/.test(t)) return undefined
  return Number(t)
}

/** Temperatures and depths of water as one person reads them. */
export interface Reader {
  c: (celsius: number) => number
  /** A depth of water as a number: mm, or inches. */
  mm: (depth: number) => number
  /** The same as text, with as many decimals as tell something: none of a mm, hundredths of an inch. */
  depth: (mm: number, finer?: boolean) => string
  /** The same for narrow cells: .07 rather than 0.07. */
  tight: (mm: number, finer?: boolean) => string
  temperature: string
  water: string
}

export function reader(system: UnitSystem): Reader {
  const mm = (x: number) => fromSI(x, 'mm', system)
  const depth = (x: number, finer = false) => mm(x).toFixed(system === 'us' ? 2 : finer ? 1 : 0)
  return {
    c: (x) => fromSI(x, 'C', system),
    mm,
    depth,
    tight: (x, finer) => depth(x, finer).replace(/^0\./, '.'),
    temperature: unitFor('C', system)?.label ?? '°C',
    water: unitFor('mm', system)?.label ?? 'mm',
  }
}

/** A number of things, with a comma between the thousands. */
export const count = (n: number): string => n.toLocaleString('en')
