import { useState } from 'react'
import { Button } from 'antd'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh, useWords } from '../api/queries'
import { fromSI, readNumber, toSI, unitFor } from '../format'
import { Problem } from '../Shell'
import { Pick, Text, Tick } from '../ui/Field'

type Label = Schemas['Label']
type Use = Schemas['Use']
type Num = Record<string, string>

const kinds = [
  ['fertilizer', 'fertilizer'],
  ['fungicide', 'fungicide'],
  ['insecticide', 'insecticide'],
  ['herbicide', 'herbicide'],
  ['regulator', 'growth regulator'],
  ['wetting-agent', 'wetting agent'],
  ['amendment', 'soil amendment'],
  ['seed', 'seed'],
] as const
const forms = [
  ['granule', 'granules'],
  ['ready', 'ready to use'],
  ['wp', 'wettable powder (WP)'],
  ['wg', 'water-dispersible granules (WG)'],
  ['sc', 'suspension (SC)'],
  ['ec', 'emulsion (EC)'],
  ['sl', 'solution (SL)'],
  ['surfactant', 'surfactant'],
  ['fertilizer', 'liquid fertilizer'],
  ['conditioner', 'water conditioner'],
] as const
const releases = [
  ['', 'not said'],
  ['quick', 'nothing: all quick'],
  ['inhibited', 'an inhibitor'],
  ['sulfur-coated', 'a sulfur coat'],
  ['methylene', 'methylene urea'],
  ['polymer', 'a polymer coat'],
  ['organic', 'organic matter'],
] as const
const bag = [
  ['n', 'N'],
  ['p2o5', 'P₂O₅'],
  ['k2o', 'K₂O'],
  ['fe', 'Fe'],
  ['s', 'S'],
  ['mg', 'Mg'],
  ['ca', 'Ca'],
  ['mn', 'Mn'],
  ['sio2', 'SiO₂'],
] as const

/** Figures of a use with their metric units; the form shows them in the person's own. */
const figures: readonly (readonly [keyof Use, string, string])[] = [
  ['rate_low', 'Rate from', 'rate'],
  ['rate_high', 'Rate up to', 'rate'],
  ['carrier_low', 'Water from', 'L/100m2'],
  ['carrier_high', 'Water up to', 'L/100m2'],
  ['interval_days', 'Again after', 'days'],
  ['most_a_season', 'Times a season', ''],
  ['season_max', 'Most in a season', 'rate'],
  ['in_a_row', 'Same group in a row', 'times'],
  ['air_low', 'Air from', 'C'],
  ['air_high', 'Air up to', 'C'],
  ['soil_low', 'Soil from', 'C'],
  ['soil_high', 'Soil up to', 'C'],
  ['wind_high', 'Wind up to', 'm/s'],
  ['rainfast_hours', 'Without rain for', 'hours'],
  ['water_in_mm', 'Water in with', 'mm'],
  ['water_in_hours', 'Water in within', 'hours'],
  ['buffer_m', 'From water', 'm'],
  ['seed_after_days', 'Seed after', 'days'],
  ['seedling_mowings', 'New grass mown', 'times'],
  ['seedling_days', 'New grass up for', 'days'],
  ['mow_before_days', 'Not mown before for', 'days'],
  ['mow_after_days', 'Not mown after for', 'days'],
  ['green_up_percent', 'Green-up at least', '%'],
  ['cover_days', 'Works for', 'days'],
]

const blank: Label = { name: '', kind: 'fertilizer', form: 'granule', uses: [{ id: 'use 1', actions: [], rate_low: 0, rate_high: 0 }] }

/** A label as it stands on the pack: a new product, or a new version of one. */
export function LabelForm({ product, me, onDone }: { product?: Schemas['Product']; me: Schemas['Me']; onDone: () => void }) {
  const sys = me.unit_system
  const words = useWords()
  const refresh = useRefresh()
  const [l, setL] = useState<Label>(product?.label ?? blank)
  const [keys] = useState(() => ({ id: product?.id ?? newId(), label: newId() }))
  const unitOf = (u: string) => (u === 'rate' ? (l.liquid ? 'mL/m2' : 'g/m2') : u)
  const said = (x: number | undefined, u: string) => (x === undefined ? '' : String(Number(fromSI(x, unitOf(u), sys).toPrecision(5))))
  // what is typed, by field: numbers are read when it is saved
  const [typed, setTyped] = useState<Num>(() => {
    const out: Num = {}
    bag.forEach(([id]) => (out[`bag.${id}`] = String(l.analysis?.[id] ?? '')))
    l.uses.forEach((u, i) => figures.forEach(([f, , unit]) => (out[`${i}.${f}`] = said(u[f] as number | undefined, unit))))
    out.reentry = String(l.reentry_hours ?? '')
    out.slow = String(l.slow_share ?? '')
    out.salt = String(l.salt_index ?? '')
    out.days = String(l.release_days ?? '')
    out.density = String(l.density ?? '')
    out.actives = (l.actives ?? []).map((a) => [a.name, a.group ?? '', a.content, a.season_max ?? ''].join(', ')).join('\n')
    out.places = (l.places ?? []).map((p) => [p.place, p.number ?? '', p.from ?? '', p.until ?? ''].join(', ')).join('\n')
    out.protect = (l.protect ?? []).join(', ')
    return out
  })
  const type = (field: string, text: string) => setTyped((x) => ({ ...x, [field]: text }))
  const number = (field: string) => readNumber(typed[field] ?? '')
  const save = useMutation({
    mutationFn: () => {
      const lines = (text: string | undefined) =>
        (text ?? '')
          .split('\n')
          .map((row) => row.split(',').map((x) => x.trim()))
          .filter((row) => row[0])
      const label: Label = {
        ...l,
        analysis: Object.fromEntries(bag.flatMap(([id]) => (number(`bag.${id}`) ? [[id, number(`bag.${id}`) ?? 0]] : []))),
        reentry_hours: number('reentry') ?? 0,
        slow_share: number('slow') ?? 0,
        salt_index: number('salt') ?? 0,
        release_days: number('days') ?? 0,
        density: number('density') ?? 0,
        protect: (typed.protect ?? '')
          .split(',')
          .map((x) => x.trim())
          .filter(Boolean),
        actives: lines(typed.actives).map(([name = '', group = '', content = '', most = '']) => ({
          name,
          group,
          content: readNumber(content) ?? 0,
          season_max: readNumber(most) ?? 0,
        })),
        places: lines(typed.places).map(([place = '', num = '', from = '', until = '']) => ({ place, number: num, from, until })),
        uses: l.uses.map((u, i) => {
          const read = figures.flatMap(([f, , unit]) => {
            const n = number(`${i}.${f}`)
            return n === undefined ? [] : [[f, unitFor(unitOf(unit), sys) ? toSI(n, unitOf(unit), sys) : n] as const]
          })
          const kept = Object.entries(u).filter(([f]) => !figures.some(([id]) => id === f))
          return { rate_low: 0, rate_high: 0, ...Object.fromEntries([...kept, ...read]) } as Use
        }),
      }
      const body = { id: keys.id, label_id: keys.label, active: true, label, version: product?.version ?? 0 }
      return product ? got(api.PUT('/products/{id}', { params: { path: { id: product.id } }, body })) : got(api.POST('/products', { body }))
    },
    onSuccess: () => {
      void refresh()
      onDone()
    },
  })
  const change = (i: number, u: Partial<Use>) => setL({ ...l, uses: l.uses.map((x, k) => (k === i ? { ...x, ...u } : x)) })
  const several = (label: string, value: string[] | undefined, all: (readonly [string, string])[], onChange: (v: string[]) => void) => (
    <label className="field">
      <span>{label}</span>
      <select
        multiple
        size={4}
        aria-label={label}
        value={value ?? []}
        onChange={(e) => onChange([...e.target.selectedOptions].map((o) => o.value))}
      >
        {all.map(([v, t]) => (
          <option key={v} value={v}>
            {t}
          </option>
        ))}
      </select>
    </label>
  )
  const actions = (words?.raw.actions ?? []).filter((a) => a.takes_product).map((a) => [a.id, a.label] as const)
  const causes = (words?.raw.causes ?? []).map((c) => [c.id, c.label] as const)
  const species = (words?.raw.species ?? []).map((c) => [c.id, c.label] as const)
  return (
    <form
      className="label-form"
      aria-label="Label"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h1>{product ? `New version of ${product.label.name}` : 'New product'}</h1>
      <p className="faint">As it stands on the label in hand. What was recorded keeps the version that it was put down under.</p>
      <div className="fields">
        <Text label="Name" required value={l.name} onChange={(name) => setL({ ...l, name })} />
        <Text label="Maker" value={l.maker ?? ''} onChange={(maker) => setL({ ...l, maker })} />
        <Pick label="Kind" value={l.kind} onChange={(kind) => setL({ ...l, kind })} options={kinds} />
        <Pick label="Form" value={l.form} onChange={(form) => setL({ ...l, form })} options={forms} />
        <div className="field">
          <Tick label="Measured by volume" value={l.liquid ?? false} onChange={(liquid) => setL({ ...l, liquid })} />
          <Tick label="Restricted" value={l.restricted ?? false} onChange={(restricted) => setL({ ...l, restricted })} />
          <Tick label="A sign is put up" value={l.posting ?? false} onChange={(posting) => setL({ ...l, posting })} />
          <Tick
            label="Closed until watered in"
            value={l.reentry_watered_in ?? false}
            onChange={(reentry_watered_in) => setL({ ...l, reentry_watered_in })}
          />
        </div>
        <Text label="Closed for" unit="hours" value={typed.reentry ?? ''} onChange={(t) => type('reentry', t)} />
        {l.kind === 'fertilizer' && (
          <>
            <Text label="Slow share of N" unit="%" value={typed.slow ?? ''} onChange={(t) => type('slow', t)} />
            <Pick label="Slow by" value={l.release ?? ''} onChange={(release) => setL({ ...l, release })} options={releases} />
            <Text label="Releases over" unit="days" value={typed.days ?? ''} onChange={(t) => type('days', t)} />
            <Text label="Salt index" value={typed.salt ?? ''} onChange={(t) => type('salt', t)} />
          </>
        )}
        {l.liquid && <Text label="Weight of a litre" unit="kg" value={typed.density ?? ''} onChange={(t) => type('density', t)} />}
        <Text label="Protective equipment, with commas" wide value={typed.protect ?? ''} onChange={(t) => type('protect', t)} />
      </div>
      {(l.kind === 'fertilizer' || l.kind === 'amendment') && (
        <div className="fields bag">
          {bag.map(([id, name]) => (
            <Text key={id} label={name} unit="%" value={typed[`bag.${id}`] ?? ''} onChange={(t) => type(`bag.${id}`, t)} />
          ))}
        </div>
      )}
      <label className="field">
        <span>Actives, one a line: name, group, g in a kg or litre, most a season in g/m²</span>
        <textarea aria-label="Actives" rows={3} value={typed.actives ?? ''} onChange={(e) => type('actives', e.target.value)} />
      </label>
      <label className="field">
        <span>Registered, one place a line: place, number, from, until (YYYY-MM-DD)</span>
        <textarea aria-label="Registered" rows={2} value={typed.places ?? ''} onChange={(e) => type('places', e.target.value)} />
      </label>
      {l.uses.map((u, i) => (
        <fieldset key={i} className="use">
          <legend>Use {i + 1}</legend>
          <div className="fields">
            {several('For', u.actions, actions, (a) => change(i, { actions: a }))}
            {several('Against', u.targets, causes, (targets) => change(i, { targets }))}
            {several('Only on', u.grasses, species, (grasses) => change(i, { grasses }))}
            {several('Not on', u.not_grasses, species, (not_grasses) => change(i, { not_grasses }))}
            {figures.map(([f, name, unit]) => (
              <Text
                key={f}
                label={name}
                unit={unitFor(unitOf(unit), sys)?.label ?? unit}
                value={typed[`${i}.${f}`] ?? ''}
                onChange={(t) => type(`${i}.${f}`, t)}
              />
            ))}
            <Tick label="Not on plants in flower" value={u.bees ?? false} onChange={(bees) => change(i, { bees })} />
          </div>
        </fieldset>
      ))}
      {save.isError && <Problem error={save.error} />}
      <p className="buttons">
        <Button
          onClick={() => setL({ ...l, uses: [...l.uses, { id: `use ${l.uses.length + 1}`, actions: [], rate_low: 0, rate_high: 0 }] })}
        >
          Another use
        </Button>
        <Button type="primary" htmlType="submit" loading={save.isPending}>
          {product ? 'Keep as a new version' : 'Put it on the shelf'}
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
    </form>
  )
}
