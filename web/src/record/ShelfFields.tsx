import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { firstAreaOf } from '../bench/entries'
import { api, got, type Schemas } from '../api/client'
import { usePeople, useWords } from '../api/queries'
import { fromSI, readNumber, show, toSI, unitFor, type UnitSystem } from '../format'
import { Pick, Text, Tick } from '../ui/Field'
import type { Asked } from './useProposal'

/** What is entered of a job with a product of the shelf; empty fields stand for what is proposed. */
export interface ShelfDraft {
  product: string
  unit: '' | 'g/m2' | 'mL/m2'
  target: string
  rate: string
  carrier: string
  tank: string
  lot: string
  machine: string
  supervisor: string
  started: string
  ended: string
  wateredIn: string
  method: NonNullable<Schemas['Details']['method']>
  wind: string
  windDir: NonNullable<Schemas['Details']['wind_dir']>
  air: string
  rh: string
  sky: NonNullable<Schemas['Details']['sky']>
  part: string
  posted: boolean
  swept: boolean
}

export const blankShelf: ShelfDraft = {
  product: '',
  unit: '',
  target: '',
  rate: '',
  carrier: '',
  tank: '',
  lot: '',
  machine: '',
  supervisor: '',
  started: '',
  ended: '',
  wateredIn: '',
  method: '',
  wind: '',
  windDir: '',
  air: '',
  rh: '',
  sky: '',
  part: '',
  posted: false,
  swept: false,
}

const plain = (x: number | undefined, unit: string, sys: UnitSystem): string =>
  x === undefined ? '' : String(Number(fromSI(x, unit, sys).toPrecision(4)))

/** The draft of a record that is corrected: everything that it says. */
export function shelfOf(r: Schemas['Record'], sys: UnitSystem): ShelfDraft {
  const d = r.details
  if (!r.product_id) return { ...blankShelf, product: 'other' }
  const unit = ['mL', 'L', 'floz', 'gal'].includes(r.amount_unit) ? 'mL/m2' : 'g/m2'
  return {
    ...blankShelf,
    product: r.product_id,
    unit,
    target: r.target ?? '',
    rate: plain(r.rate, unit, sys),
    carrier: plain(r.carrier, 'L/100m2', sys),
    lot: r.lot_id ?? '',
    machine: r.machine_id ?? '',
    supervisor: r.supervisor_id ?? '',
    started: r.started ?? '',
    ended: r.ended ?? '',
    wateredIn: r.watered_in ?? '',
    method: d?.method ?? '',
    wind: plain(r.wind_ms, 'm/s', sys),
    windDir: d?.wind_dir ?? '',
    air: plain(r.air_c, 'C', sys),
    rh: d?.rh === undefined ? '' : String(Math.round(d.rh)),
    sky: d?.sky ?? '',
    part: d?.part ?? '',
    posted: d?.posted ?? false,
    swept: d?.swept ?? false,
  }
}

/** The part of a record's body that says what was done with the product: what was entered, else what was proposed. */
export function shelfBody(s: ShelfDraft, p: Schemas['Proposal'], sys: UnitSystem): Partial<Schemas['Record']> {
  const number = (text: string, unit: string) => {
    const n = readNumber(text)
    return n === undefined ? undefined : toSI(n, unit, sys)
  }
  const unit = p.rate_unit || 'g/m2'
  const lot = s.lot || p.lot_id
  const target = s.target || p.target
  const rate = number(s.rate, unit) ?? p.rate
  const carrier = number(s.carrier, 'L/100m2') ?? p.carrier
  const rh = readNumber(s.rh)
  const wind = number(s.wind, 'm/s')
  const air = number(s.air, 'C')
  return {
    ...(p.product_id && { product_id: p.product_id }),
    ...(lot && { lot_id: lot }),
    ...(s.machine && { machine_id: s.machine }),
    ...(s.supervisor && { supervisor_id: s.supervisor }),
    ...(target && { target }),
    ...(rate !== undefined && { rate }),
    ...(carrier !== undefined && { carrier }),
    ...(s.started && { started: s.started }),
    ...(s.ended && { ended: s.ended }),
    ...(s.wateredIn && { watered_in: s.wateredIn }),
    ...(wind !== undefined && { wind_ms: wind }),
    ...(air !== undefined && { air_c: air }),
    details: {
      ...(s.method && { method: s.method }),
      ...(s.windDir && { wind_dir: s.windDir }),
      ...(s.sky && { sky: s.sky }),
      ...(rh !== undefined && { rh }),
      ...(s.part && { part: s.part }),
      posted: s.posted,
      swept: s.swept,
      ...(p.amount !== undefined && { planned: p.amount }),
      ...(p.tank && { tank: p.tank.lines.slice(0, 10).map((l) => `${l.label}: ${l.text}`) }),
    },
  }
}

const directions = ['', 'N', 'NE', 'E', 'SE', 'S', 'SW', 'W', 'NW'] as const
const methods = [
  ['', 'not said'],
  ['spray', 'sprayed'],
  ['spread', 'spread'],
  ['drench', 'drenched'],
  ['spot', 'spots'],
  ['hose-end', 'hose-end'],
  ['by-hand', 'by hand'],
  ['machine', 'with a machine'],
] as const
const skies = [
  ['', 'not said'],
  ['clear', 'clear'],
  ['cloudy', 'cloudy'],
  ['overcast', 'overcast'],
  ['fog', 'fog'],
] as const

/** Everything that is known stands in the fields in grey with where it is from; what is typed goes before it. */
export function ShelfFields({
  draft: s,
  onChange,
  p,
  me,
}: {
  draft: ShelfDraft
  onChange: (s: ShelfDraft) => void
  p: Schemas['Proposal']
  me: Schemas['Me']
}) {
  const sys = me.unit_system
  const words = useWords()
  const people = usePeople(me.rights.includes('record-treatment'))
  const machines = useQuery({ queryKey: ['machines'], queryFn: () => got(api.GET('/machines')) })
  const products = useQuery({ queryKey: ['products', ''], queryFn: () => got(api.GET('/products')) })
  const lots = products.data?.find((x) => x.id === p.product_id)?.lots ?? []
  const unit = p.rate_unit || 'g/m2'
  const set = (change: Partial<ShelfDraft>) => onChange({ ...s, unit, ...change })
  const label = (id: string) => unitFor(id, sys)?.label ?? id
  const cause = (id: string) => words?.cause.get(id)?.label ?? id
  const licensed = (people.data ?? []).filter((x) => x.licence_number && x.active)
  const hint = (value: number | undefined, of: string, from: string, digits = 2) =>
    value === undefined ? undefined : `${show(value, of, sys, digits)} ${from}`
  return (
    <>
      {p.targets.length > 0 && (
        <Pick
          label="Against"
          value={s.target || p.target || ''}
          onChange={(target) => set({ target })}
          options={[['', 'choose'], ...p.targets.map((t) => [t, cause(t)] as const)]}
        />
      )}
      <Text
        label="Rate"
        unit={label(unit)}
        value={s.rate}
        onChange={(rate) => set({ rate })}
        hint={`${show(p.rate ?? 0, unit, sys, 3)} proposed; label ${show(p.rate_low ?? 0, unit, sys, 3)} to ${show(p.rate_high ?? 0, unit, sys, 3)}`}
      />
      {p.carrier !== undefined && (
        <Text
          label="Water carrier"
          unit={label('L/100m2')}
          value={s.carrier}
          onChange={(carrier) => set({ carrier })}
          hint={hint(p.carrier, 'L/100m2', 'by the label')}
        />
      )}
      {p.tank && (
        <Text label="Tank" unit={label('L')} value={s.tank} onChange={(tank) => set({ tank })} hint={hint(15, 'L', 'unless you say')} />
      )}
      {lots.length > 0 && (
        <Pick
          label="Lot"
          value={s.lot || p.lot_id || ''}
          onChange={(lot) => set({ lot })}
          options={[
            ['', 'not said'],
            ...lots.map(
              (l) => [l.id ?? '', `${l.lot}, ${show((l.left ?? 0) / 1000, unit === 'mL/m2' ? 'L' : 'kg', sys, 2)} left`] as const,
            ),
          ]}
        />
      )}
      <Pick
        label="Machine"
        value={s.machine}
        onChange={(machine) => set({ machine })}
        options={[
          ['', 'by hand or not said'],
          ...(machines.data ?? []).map((m) => [m.id, m.broken ? `${m.name} (out of order)` : m.name] as const),
        ]}
      />
      <Text label="Started" value={s.started} onChange={(started) => set({ started })} hint={`like 07:30; now is ${p.at.slice(11, 16)}`} />
      <Text label="Ended" value={s.ended} onChange={(ended) => set({ ended })} />
      {p.must_water_in && (
        <Text label="Watered in at" value={s.wateredIn} onChange={(wateredIn) => set({ wateredIn })} hint="closed until then, and dry" />
      )}
      <Pick label="How" value={s.method} onChange={(method) => set({ method })} options={methods} />
      <Text
        label="Wind"
        unit={label('m/s')}
        value={s.wind}
        onChange={(wind) => set({ wind })}
        hint={hint(p.weather?.wind_ms, 'm/s', 'from the station', 1)}
      />
      <Pick
        label="Wind from"
        value={s.windDir}
        onChange={(windDir) => set({ windDir })}
        options={directions.map((x) => [x, x || 'not said'] as const)}
      />
      <Text
        label="Air"
        unit={label('C')}
        value={s.air}
        onChange={(air) => set({ air })}
        hint={hint(p.weather?.air_c, 'C', 'from the station', 0)}
      />
      <Text
        label="Humidity"
        unit="%"
        value={s.rh}
        onChange={(rh) => set({ rh })}
        hint={p.weather?.rh === undefined ? undefined : `${Math.round(p.weather.rh)} % from the station`}
      />
      <Pick label="Sky" value={s.sky} onChange={(sky) => set({ sky })} options={skies} />
      <Text label="Part of the zone" value={s.part} onChange={(part) => set({ part })} />
      {p.licence && licensed.length > 0 && (
        <Pick
          label="Supervisor"
          value={s.supervisor}
          onChange={(supervisor) => set({ supervisor })}
          options={[['', 'none'], ...licensed.map((x) => [x.id, `${x.name}, ${x.licence_number}`] as const)]}
        />
      )}
      <div className="field">
        <Tick label="Sign put up" value={s.posted} onChange={(posted) => set({ posted })} />
        <Tick label="Paving swept" value={s.swept} onChange={(swept) => set({ swept })} />
      </div>
    </>
  )
}

const names: Partial<Record<string, string>> = { n: 'N', p: 'P', k: 'K', fe: 'Fe', s: 'S', mg: 'Mg', ca: 'Ca', mn: 'Mn', si: 'Si' }
const place = (id: string) => (Object.keys(names).indexOf(id) + 100) % 100 // one without a name goes last

/** What it comes to: product and water, what goes down, how long the zone is closed, and the sheets for the tailgate. */
export function ShelfSums({
  p,
  me,
  visit,
  zone,
  asked,
}: {
  p: Schemas['Proposal']
  me: Schemas['Me']
  visit: string
  zone: string
  asked: Asked | undefined
}) {
  const sys = me.unit_system
  const volume = p.rate_unit === 'mL/m2'
  const amount = p.amount ?? 0
  const given = [
    ...Object.entries(p.nutrients ?? {})
      .sort(([a], [b]) => place(a) - place(b))
      .map(([id, x]) => `${show(x, 'g/m2', sys, 2)} ${names[id] ?? id}`),
    ...Object.entries(p.actives ?? {}).map(([id, x]) => `${id} ${show(x, 'g/m2', sys, 4)}`),
  ]
  const query = new URLSearchParams({ action: p.action, area_m2: String(p.area_m2) })
  if (p.product_id) query.set('product_id', p.product_id)
  if (p.target) query.set('target', p.target)
  if (p.rate) query.set('rate', String(p.rate))
  if (p.carrier) query.set('carrier', String(p.carrier))
  if (asked?.tank_l) query.set('tank_l', String(asked.tank_l))
  const sheet = (name: string) => `/api/v1/visits/${visit}/zones/${zone}/${name}?${query.toString()}`
  return (
    <div className="sums">
      <p className="num">
        Product{' '}
        <b data-amount>
          {amount >= 1000 ? show(amount / 1000, volume ? 'L' : 'kg', sys, 2) : show(amount, volume ? 'mL' : 'g', sys, sys === 'us' ? 2 : 0)}
        </b>{' '}
        for {show(p.area_m2, 'm2', sys)}
      </p>
      {given.length > 0 && <p className="num faint">gives {given.join(', ')}</p>}
      {!volume && p.rate !== undefined && amount > 0 && (
        <p>
          Fine granules: after the first known area, weigh what is left.{' '}
          <Link className="check-link" to={firstAreaOf({ grams: amount, rate: p.rate, area: p.area_m2 }, sys)}>
            Check the rate
          </Link>
        </p>
      )}
      {p.tank?.lines
        .filter((l) => ['water', 'fills', 'product-fill', 'last-mix', 'last-product'].includes(l.id))
        .map((l) => (
          <p key={l.id} className="num">
            {l.label} <strong>{l.text}</strong>
          </p>
        ))}
      <p>
        {p.must_water_in
          ? 'People and pets off until it is watered in and dry.'
          : p.closed_hours > 0
            ? `People and pets off for ${p.closed_hours} hours, and until dry.`
            : 'People and pets may come back when the work is done.'}
      </p>
      {p.licence && (
        <details className="spill">
          <summary>Spill or contact{p.poison_centre && `: poison centre ${p.poison_centre}`}</summary>
          <ol>
            <li>Stop it: set the can upright, close the valve.</li>
            <li>Keep people and pets off; gloves on before you touch anything.</li>
            <li>Dam it and soak it up with sand or litter; nothing into drains or water.</li>
            <li>On skin or in eyes: wash with running water for a quarter of an hour, then call. Take the label along.</li>
            <li>Report it as local rules say.</li>
          </ol>
        </details>
      )}
      <p className="buttons">
        <a className="export" href={sheet('mix-sheet')} download>
          Mix sheet
        </a>
        <a className="export" href={sheet('sign')} download>
          Sign for the lawn
        </a>
      </p>
    </div>
  )
}
