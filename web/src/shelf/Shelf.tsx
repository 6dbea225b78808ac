import { useState } from 'react'
import { Button, Input } from 'antd'
import { useMutation, useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { newId, useMe, useRefresh, useWords } from '../api/queries'
import { readNumber, show, showDate, toSI, unitFor } from '../format'
import { Stops } from '../record/Stops'
import { Busy, Problem } from '../Shell'
import { Day, Text } from '../ui/Field'
import { useSettled } from '../ui/useSettled'
import { LabelForm } from './LabelForm'
import './shelf.css'

type Product = Schemas['Product']
type Glance = Schemas['Glance']

const kindWords: Record<string, string> = {
  fertilizer: 'Fertilizer',
  fungicide: 'Fungicide',
  insecticide: 'Insecticide',
  herbicide: 'Herbicide',
  regulator: 'Growth regulator',
  'wetting-agent': 'Wetting agent',
  amendment: 'Soil amendment',
  seed: 'Seed',
}

const left = (p: Product, me: Schemas['Me']): string =>
  p.left === undefined ? 'not counted' : show(p.left / 1000, p.label.liquid ? 'L' : 'kg', me.unit_system, 2)

/** What it is made of, in one line. */
function made(p: Product): string {
  const a = p.label.analysis ?? {}
  const bag = p.label.kind === 'fertilizer' ? `${a.n ?? 0}-${a.p2o5 ?? 0}-${a.k2o ?? 0}` : ''
  const more = [
    ['fe', 'Fe'],
    ['s', 'S'],
    ['mg', 'Mg'],
    ['ca', 'Ca'],
    ['mn', 'Mn'],
    ['sio2', 'SiO₂'],
  ].flatMap(([id = '', name]) => (a[id] ? [`${a[id]} ${name}`] : []))
  const actives = (p.label.actives ?? []).map((x) => `${x.name}${x.group ? ` (group ${x.group})` : ''}`)
  return [bag, ...more, ...actives].filter(Boolean).join(', ')
}

/** Where a product stands today: open first, then stopped, then what no lawn calls for. */
function standing(g: Glance | undefined): number {
  const called = g?.lawns.filter((l) => l.called) ?? []
  if (called.some((l) => l.stops.length === 0)) return 0
  return called.length > 0 ? 1 : 2
}

/** How many of the day's lawns it may go on now, of those that call for it; what stops it where none is open. */
function Today({ g }: { g: Glance | undefined }) {
  if (!g || g.lawns.length === 0) return <span className="faint">no lawn today</span>
  const called = g.lawns.filter((l) => l.called)
  const open = called.filter((l) => l.stops.length === 0)
  if (open.length > 0)
    return (
      <b className="open">
        open on {open.length} of {g.lawns.length}
      </b>
    )
  const first = called.find((l) => l.stops[0]) ?? g.lawns.find((l) => l.stops[0])
  if (called.length > 0 && first?.stops[0]) return <span className="stopped">stopped: {first.stops[0].text}</span>
  return <span className="faint">not called for today</span>
}

function LotForm({ p, me, onDone }: { p: Product; me: Schemas['Me']; onDone: () => void }) {
  const unit = p.label.liquid ? 'L' : 'kg'
  const [d, setD] = useState({ lot: '', amount: '', price: '', received: me.today, expires: '' })
  const [key] = useState(newId)
  const refresh = useRefresh()
  const save = useMutation({
    mutationFn: () =>
      got(
        api.PUT('/products/{id}/lots/{lot}', {
          params: { path: { id: p.id, lot: key } },
          body: {
            lot: d.lot,
            amount: toSI(readNumber(d.amount) ?? 0, unit, me.unit_system) * 1000,
            ...(readNumber(d.price) !== undefined && { price: readNumber(d.price) }),
            received_on: d.received,
            ...(d.expires && { expires_on: d.expires }),
            version: 0,
          },
        }),
      ),
    onSuccess: () => {
      void refresh()
      onDone()
    },
  })
  return (
    <form
      className="lot-form"
      aria-label="New lot"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <div className="fields">
        <Text label="Lot" required value={d.lot} onChange={(lot) => setD({ ...d, lot })} />
        <Text
          label="Received"
          required
          unit={unitFor(unit, me.unit_system)?.label}
          value={d.amount}
          onChange={(amount) => setD({ ...d, amount })}
        />
        <Text label="Price of it" unit={me.currency} value={d.price} onChange={(price) => setD({ ...d, price })} />
        <Day label="Received on" value={d.received} form={me.date_form} max={me.today} onChange={(received) => setD({ ...d, received })} />
        <Day label="Use by" value={d.expires} form={me.date_form} onChange={(expires) => setD({ ...d, expires })} />
      </div>
      {save.isError && <Problem error={save.error} />}
      <p className="buttons">
        <Button type="primary" htmlType="submit" loading={save.isPending}>
          Put it on the shelf
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
    </form>
  )
}

function Uses({ p, me }: { p: Product; me: Schemas['Me'] }) {
  const words = useWords()
  const sys = me.unit_system
  const unit = p.label.liquid ? 'mL/m2' : 'g/m2'
  return (
    <ul className="uses">
      {p.label.uses.map((u) => {
        const facts = [
          `${show(u.rate_low, unit, sys, 3)} to ${show(u.rate_high, unit, sys, 3)}`,
          u.carrier_high ? `in ${show(u.carrier_low ?? 0, 'L/100m2', sys, 1)} to ${show(u.carrier_high, 'L/100m2', sys, 1)} of water` : '',
          u.interval_days ? `again after ${u.interval_days} days` : '',
          u.most_a_season ? `${u.most_a_season} times a season` : '',
          u.air_high !== undefined ? `up to ${show(u.air_high, 'C', sys)}` : '',
          u.rainfast_hours ? `${u.rainfast_hours} h without rain` : '',
          u.water_in_mm ? `watered in with ${show(u.water_in_mm, 'mm', sys, 2)}` : '',
          u.buffer_m ? `${show(u.buffer_m, 'm', sys)} from water` : '',
          u.seed_after_days ? `seed after ${u.seed_after_days} days` : '',
          u.seedling_mowings ? `new grass mown ${u.seedling_mowings} times` : '',
          u.cover_days ? `works ${u.cover_days} days` : '',
        ]
        return (
          <li key={u.id}>
            <b>{u.actions.map((a) => words?.action.get(a)?.label ?? a).join(', ')}</b>
            {u.targets && (
              <span className="faint"> against {u.targets.map((t) => words?.cause.get(t)?.label.toLowerCase() ?? t).join(', ')}</span>
            )}
            <br />
            {facts.filter(Boolean).join(', ')}
            {u.grasses && <>; only on {u.grasses.map((s) => words?.species.get(s)?.label ?? s).join(', ')}</>}
            {u.not_grasses && <>; not on {u.not_grasses.map((s) => words?.species.get(s)?.label ?? s).join(', ')}</>}
          </li>
        )
      })}
    </ul>
  )
}

function One({ p, me, glance }: { p: Product; me: Schemas['Me']; glance: Glance | undefined }) {
  const words = useWords()
  const [lot, setLot] = useState(false)
  const [edit, setEdit] = useState(false)
  const [all, setAll] = useState(false)
  const called = (glance?.lawns ?? []).filter((x) => x.called)
  const shown = all ? (glance?.lawns ?? []) : called
  const may = me.rights.includes('keep-shelf')
  if (edit) return <LabelForm product={p} me={me} onDone={() => setEdit(false)} />
  const l = p.label
  return (
    <article className="product" aria-label={l.name}>
      <h1>{l.name}</h1>
      <p className="faint">
        {kindWords[l.kind]}
        {l.maker && `, ${l.maker}`}, label {p.number}
        {l.restricted && ', restricted'}
      </p>
      <p>{made(p)}</p>
      <h2>Today</h2>
      {!glance && <p className="faint">Looking at the day’s lawns …</p>}
      {glance && called.length === 0 && <p className="faint">No lawn of the day calls for it.</p>}
      <ul className="lawns">
        {shown.map((x) => (
          <li key={x.zone_id} data-open={x.stops.length === 0}>
            <Link to={`/visits/${x.visit_id}/${x.zone_id}/record?action=${x.action}`}>
              {x.site_name}, {x.zone_name}
            </Link>{' '}
            <span className="faint">
              {words?.action.get(x.action)?.label}
              {x.called ? '' : ', not called for'}
            </span>
            {x.stops.length === 0 ? <b className="open"> may go down now</b> : <Stops stops={x.stops.slice(0, 2)} form={me.date_form} />}
          </li>
        ))}
      </ul>
      {glance && glance.lawns.length > called.length && (
        <button type="button" className="quiet" aria-expanded={all} onClick={() => setAll(!all)}>
          {all ? 'Hide' : 'Show'} the {glance.lawns.length - called.length} that do not call for it
        </button>
      )}
      <h2>By the label</h2>
      <Uses p={p} me={me} />
      <p className="faint">
        {[
          l.protect?.length ? `Wear ${l.protect.join(', ')}` : '',
          l.reentry_watered_in
            ? 'closed until watered in and dry'
            : l.reentry_hours
              ? `closed for ${l.reentry_hours} hours and until dry`
              : '',
          l.posting ? 'a sign is put up' : '',
          ...(l.places ?? []).map(
            (x) =>
              `registered in ${x.place}${x.number ? ` (${x.number})` : ''}${x.until ? ` until ${showDate(x.until, me.date_form)}` : ''}`,
          ),
        ]
          .filter(Boolean)
          .join('; ')}
      </p>
      <h2>Lots</h2>
      <table className="lots">
        <thead>
          <tr>
            <th scope="col">Lot</th>
            <th scope="col">Left</th>
            <th scope="col">Opened</th>
            <th scope="col">Use by</th>
          </tr>
        </thead>
        <tbody>
          {(p.lots ?? []).map((x) => (
            <tr key={x.id} data-old={x.expires_on !== undefined && x.expires_on < me.today}>
              <td>{x.lot}</td>
              <td className="num">
                {show((x.left ?? 0) / 1000, l.liquid ? 'L' : 'kg', me.unit_system, 2)} of{' '}
                {show(x.amount / 1000, l.liquid ? 'L' : 'kg', me.unit_system, 2)}
              </td>
              <td className="num">{showDate(x.opened_on, me.date_form) || 'sealed'}</td>
              <td className="num">{showDate(x.expires_on, me.date_form)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {lot ? (
        <LotForm p={p} me={me} onDone={() => setLot(false)} />
      ) : (
        may && (
          <p className="buttons">
            <Button onClick={() => setLot(true)}>New lot</Button>
            <Button onClick={() => setEdit(true)}>New version of the label</Button>
          </p>
        )
      )}
    </article>
  )
}

/** Takes a file of products in, whole or not at all, with every reason by its line. */
function TakeFile() {
  const refresh = useRefresh()
  const take = useMutation({
    mutationFn: async (file: File) =>
      got(
        api.POST('/products/csv', {
          body: (await file.text()) as never,
          bodySerializer: (text: unknown) => text as string,
          headers: { 'Content-Type': 'text/csv' },
        }),
      ),
    onSuccess: refresh,
  })
  return (
    <>
      <label className="export take-file">
        Take in a file
        <input
          type="file"
          accept=".csv,text/csv"
          aria-label="File of products"
          onChange={(e) => {
            const file = e.target.files?.[0]
            e.target.value = ''
            if (file) take.mutate(file)
          }}
        />
      </label>
      {take.data && (
        <span className="faint" role="status">
          {take.data.new} new, {take.data.changed} changed, {take.data.same} as they were
        </span>
      )}
      {take.isError && <Problem error={take.error} />}
    </>
  )
}

/** The shelf: every product with what is left, what a week of it costs, and what it may still do today. */
export default function Shelf() {
  const { product = '' } = useParams()
  const me = useMe().data
  const navigate = useNavigate()
  const [find, setFind] = useState('')
  const settled = useSettled(find)
  const products = useQuery({
    queryKey: ['products', settled],
    queryFn: () => got(api.GET('/products', { params: { query: { find: settled } } })),
  })
  const glance = useQuery({ queryKey: ['glance'], queryFn: () => got(api.GET('/shelf/today')), staleTime: 60_000 })
  if (products.isLoadingError) return <Problem error={products.error} />
  if (!products.data || !me) return <Busy what="the shelf" />
  const at = new Map((glance.data ?? []).map((g) => [g.product_id, g]))
  const sorted = [...products.data].sort((a, b) => standing(at.get(a.id)) - standing(at.get(b.id)))
  const chosen = products.data.find((p) => p.id === product)
  const may = me.rights.includes('keep-shelf')
  return (
    <div className="shelf" data-open={product !== ''}>
      <main>
        <div className="shelf-head">
          <h1>Shelf</h1>
          <Input
            type="search"
            aria-label="Find a product"
            placeholder="name, maker, active"
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          {may && <Button onClick={() => void navigate('/shelf/new')}>New product</Button>}
          <a className="export" href="/api/v1/products/csv" download>
            As a file
          </a>
          {may && <TakeFile />}
        </div>
        {products.data.length === 0 && <p className="empty">{settled ? 'Nothing on the shelf is called that.' : 'The shelf is empty.'}</p>}
        <table className="shelf-list">
          <thead>
            <tr>
              <th scope="col">Product</th>
              <th scope="col">Left</th>
              <th scope="col" className="wide-only">
                A week for {show(100, 'm2', me.unit_system)}
              </th>
              <th scope="col">Today</th>
            </tr>
          </thead>
          <tbody>
            {sorted.map((p) => (
              <tr key={p.id} data-product={p.id} data-chosen={p.id === product}>
                <td>
                  <Link to={`/shelf/${p.id}`}>
                    <b>{p.label.name}</b>
                    <span className="faint">
                      {kindWords[p.label.kind]}
                      {p.label.restricted ? ', restricted' : ''}
                      <br />
                      {made(p)}
                    </span>
                  </Link>
                </td>
                <td className="num">{left(p, me)}</td>
                <td className="num wide-only">{p.weekly === undefined ? '' : `${p.weekly.toFixed(2)} ${me.currency}`}</td>
                <td>{glance.data ? <Today g={at.get(p.id)} /> : <span className="faint">…</span>}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </main>
      {product !== '' && (
        <aside>
          <Link className="quiet shelf-back" to="/shelf">
            Close
          </Link>
          {product === 'new' ? (
            <LabelForm me={me} onDone={() => void navigate('/shelf')} />
          ) : chosen ? (
            <One key={chosen.id} p={chosen} me={me} glance={at.get(chosen.id)} />
          ) : (
            <p className="faint">There is no such product on the shelf.</p>
          )}
        </aside>
      )}
    </div>
  )
}
