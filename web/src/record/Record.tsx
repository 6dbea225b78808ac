import { useState } from 'react'
import { Button, Input } from 'antd'
import { Link, useParams, useSearchParams } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import { write } from '../offline/writes'
import { api, got, Refused, type Schemas } from '../api/client'
import { newId, useMe, useVisit, useWords } from '../api/queries'
import { fromSI, readNumber, show, showDate, toSI, unitFor } from '../format'
import { inOrder } from '../plan/order'
import { useScales } from '../scales/useScales'
import { blankShelf, ShelfFields, ShelfSums, shelfBody, shelfOf, type ShelfDraft } from './ShelfFields'
import { Stops } from './Stops'
import { useProposal, type Asked } from './useProposal'
import { Busy, Problem } from '../Shell'
import { VisitHead } from '../visit/VisitHead'
import './record.css'

interface Draft {
  action: string
  area: string
  product: string
  amount: string
  amountUnit: string
  target: string
  n: string
  p2o5: string
  k2o: string
  source: '' | 'quick' | 'slow' | 'organic'
  iron: string
  water: string
  wind: string
  air: string
  reentry: string
  note: string
  why: string
  signed: string
}

/** Amounts of a unit as people enter them. */
const packUnits = ['g', 'kg', 'mL', 'L', 'oz', 'lb', 'floz', 'gal']

const verdictWords: Record<string, string> = { schedule: 'later', 'check-first': 'check first', hold: 'wait', avoid: 'don’t do' }

const flags: Record<string, string> = {
  nitrogen: 'nitrogen over the usual most at once',
  wind: 'wind outside the usual limits',
  heat: 'too hot for a spray',
}

/** A number of a record as it is entered in the firm's units; empty where the record does not say. */
function entered(x: number | undefined, unit: string, sys: Schemas['Me']['unit_system'], digits = 2): string {
  if (x === undefined) return ''
  const f = 10 ** digits
  return String(Math.round(fromSI(x, unit, sys) * f) / f)
}

/** The analysis that a record's amounts come to, in per cent by weight of oxides, where they can be worked back. */
function bagOf(r: Schemas['Record']): Partial<Draft> {
  const grams = r.amount === undefined ? undefined : r.amount * ({ g: 1, kg: 1000, oz: 28.349523125, lb: 453.59237 }[r.amount_unit] ?? NaN)
  if (!grams || r.n_g_m2 === undefined) return {}
  const of = (x: number | undefined, oxide: number) => String(Math.round(((x ?? 0) * r.area_m2 * 100) / grams / oxide))
  return { n: of(r.n_g_m2, 1), p2o5: of(r.p_g_m2, 0.436), k2o: of(r.k_g_m2, 0.83) }
}

function Field({
  label,
  unit,
  value,
  onChange,
  hint,
  wide,
}: {
  label: string
  unit?: string
  value: string
  onChange: (v: string) => void
  hint?: string
  wide?: boolean
}) {
  return (
    <label className={wide ? 'field wide' : 'field'}>
      <span>{label}</span>
      <Input
        value={value}
        suffix={unit}
        inputMode={unit ? 'decimal' : 'text'}
        aria-label={label}
        onChange={(e) => onChange(e.target.value)}
      />
      {hint && <small className="faint">{hint}</small>}
    </label>
  )
}

export default function RecordView() {
  const { visit = '', zone = '' } = useParams()
  const [search] = useSearchParams()
  const me = useMe().data
  const words = useWords()
  const detail = useVisit(visit)
  const scales = useScales(visit, zone)
  if (detail.isLoadingError) return <Problem error={detail.error} />
  if (!detail.data || !me || !words || !scales.data) return <Busy what="the record" />
  const z = detail.data.site.zones?.find((x) => x.id === zone)
  if (!z) return <Problem error={new Error('There is no such zone on this site')} />
  return (
    <Sheet
      key={zone}
      detail={detail.data}
      zone={z}
      me={me}
      scales={scales.data.now}
      first={search.get('action') ?? ''}
      job={search.get('job') ?? ''}
    />
  )
}

function Sheet({
  detail,
  zone,
  me,
  scales,
  first,
  job,
}: {
  detail: Schemas['VisitDetail']
  zone: Schemas['Zone']
  me: Schemas['Me']
  scales: Schemas['Scales']
  first: string
  job: string
}) {
  const words = useWords()
  const sys = me.unit_system
  const us = sys === 'us'
  const areaUnit = unitFor('m2', sys)?.label ?? 'm²'
  const rateUnit = unitFor('g/m2', sys)?.label ?? 'g/m²'
  const doNow = inOrder(scales.diagnosis.actions).filter(
    (a) =>
      a.verdict === 'do-now' &&
      !a.as &&
      words?.action.get(a.id)?.recorded === true &&
      (me.rights.includes('record-pesticide') || !words.action.get(a.id)?.pesticide),
  )
  const chosen = first || (doNow[0]?.id ?? '')
  const blank: Draft = {
    action: chosen,
    area: String(Math.round(fromSI(zone.area_m2, 'm2', sys))),
    product: '',
    amount: '',
    amountUnit: us ? 'lb' : 'kg',
    target: entered(scales.diagnosis.actions.find((a) => a.id === chosen && a.verdict === 'do-now')?.n_g_m2, 'g/m2', sys),
    n: '',
    p2o5: '0',
    k2o: '0',
    source: '',
    iron: '',
    water: '',
    wind: '',
    air: '',
    reentry: '',
    note: '',
    why: '',
    signed: me.name,
  }
  const [d, setD] = useState<Draft>(blank)
  const [shelf, setShelf] = useState<ShelfDraft>(blankShelf)
  const [corrects, setCorrects] = useState('')
  const set = (change: Partial<Draft>) => setD((x) => ({ ...x, ...change }))
  const action = words?.action.get(d.action)
  const isFeed = action?.feeds ?? false
  const isWater = action?.waters ?? false
  const hasProduct = action?.takes_product ?? false
  const si = (text: string, unit: string) => {
    const n = readNumber(text)
    return n === undefined ? undefined : toSI(n, unit, sys)
  }
  const area = si(d.area, 'm2')
  const typed = (text: string, unit: string) => (readNumber(text) === undefined ? undefined : si(text, unit))
  const rateUnit2 = shelf.unit || 'g/m2'
  const ask: Asked | undefined =
    hasProduct && shelf.product !== 'other'
      ? {
          action: d.action,
          ...(shelf.product && { product_id: shelf.product }),
          ...(shelf.lot && { lot_id: shelf.lot }),
          ...(shelf.machine && { machine_id: shelf.machine }),
          ...(shelf.supervisor && { supervisor_id: shelf.supervisor }),
          ...(shelf.target && { target: shelf.target }),
          ...(d.area !== blank.area && area && { area_m2: area }),
          ...(typed(shelf.rate, rateUnit2) && { rate: typed(shelf.rate, rateUnit2) }),
          ...(typed(shelf.carrier, 'L/100m2') && { carrier: typed(shelf.carrier, 'L/100m2') }),
          ...(typed(shelf.tank, 'L') && { tank_l: typed(shelf.tank, 'L') }),
          ...(/^\d\d:\d\d$/.test(shelf.started) && { at: `${me.today}T${shelf.started}:00Z` }),
          posted: shelf.posted,
        }
      : undefined
  const proposal = useProposal(detail.visit.id, zone.id, ask)
  const fromShelf = ask !== undefined && proposal.data?.product_id !== undefined ? proposal.data : undefined
  const sums = useQuery({
    queryKey: ['sums', d.target, d.n, d.p2o5, d.k2o, d.source, d.area, sys],
    queryFn: () =>
      got(
        api.POST('/bench/{id}', {
          params: { path: { id: 'nutrient' } },
          body: {
            entries: {
              target: { amount: si(d.target, 'g/m2') ?? 0 },
              n: { amount: readNumber(d.n) ?? 0 },
              p2o5: { amount: readNumber(d.p2o5) ?? 0 },
              k2o: { amount: readNumber(d.k2o) ?? 0 },
              area: { amount: area ?? 0 },
              'area-error': { amount: zone.area_error * 100 },
              release: { choice: d.source === 'quick' ? 'quick' : 'slow' },
            },
          },
        }),
      ),
    select: (r) => ({
      lines: r.lines,
      warnings: r.warnings.map((w) => w.text),
      of: (id: string) => r.lines.find((l) => l.id === id)?.value ?? 0,
    }),
    enabled: isFeed && !fromShelf && !!area && !!readNumber(d.target) && !!readNumber(d.n),
  })
  const save = useMutation({
    mutationFn: (ids: { id: string; followUp: string }) => {
      const body: Schemas['Record'] = {
        id: ids.id,
        visit_id: detail.visit.id,
        zone_id: zone.id,
        action: d.action,
        area_m2: area ?? 0,
        product: d.product,
        amount_unit: '',
        source: '',
        reentry: d.reentry,
        note: d.note,
        outside_reason: d.why,
        signed_name: d.signed,
        voided: false,
        ...(job && d.action === first && !corrects && { job_id: job }),
        ...(corrects ? { corrects_id: corrects } : { follow_up_id: ids.followUp }),
      }
      if (fromShelf) {
        Object.assign(body, shelfBody(shelf, fromShelf, sys), { area_m2: d.area === blank.area ? fromShelf.area_m2 : (area ?? 0) })
      } else if (isFeed && sums.data) {
        const grams = sums.data.of('product')
        Object.assign(body, {
          amount: us ? Math.round((grams / 453.59237) * 100) / 100 : Math.round(grams) / 1000,
          amount_unit: us ? 'lb' : 'kg',
          n_g_m2: sums.data.of('n'),
          p_g_m2: sums.data.of('p'),
          k_g_m2: sums.data.of('k'),
          source: d.source,
        })
      } else if (readNumber(d.amount) !== undefined) {
        Object.assign(body, { amount: readNumber(d.amount), amount_unit: d.amountUnit })
      }
      if (givesIron && readNumber(d.iron) !== undefined) body.fe_g_m2 = si(d.iron, 'g/m2')
      if (isWater && readNumber(d.water) !== undefined) body.water_mm = si(d.water, 'mm')
      if (readNumber(d.wind) !== undefined) body.wind_ms = si(d.wind, 'm/s')
      if (readNumber(d.air) !== undefined) body.air_c = si(d.air, 'C')
      const record = { what: 'record' as const, zone: zone.id, visit: detail.visit.id }
      return write(ids.id, { ...record, body }, { ...record, body: { applied_on: me.today, ...body } })
    },
  })
  // one key for one record: pressing twice, or after a lost connection, records once
  const [ids, setIds] = useState(() => ({ id: newId(), followUp: newId() }))
  const afresh = (draft: Draft, of: string) => {
    save.reset()
    setIds({ id: newId(), followUp: newId() })
    setCorrects(of)
    setShelf(blankShelf)
    setD(draft)
  }
  // a correction begins with everything that the record says
  const correct = (r: Schemas['Record']) => {
    afresh(
      {
        ...blank,
        action: r.action,
        product: r.product,
        area: entered(r.area_m2, 'm2', sys, 0),
        amount: r.amount === undefined ? '' : String(r.amount),
        amountUnit: r.amount_unit || blank.amountUnit,
        target: entered(r.n_g_m2, 'g/m2', sys),
        source: r.source,
        iron: entered(r.fe_g_m2, 'g/m2', sys, 3),
        water: entered(r.water_mm, 'mm', sys),
        wind: entered(r.wind_ms, 'm/s', sys, 1),
        air: entered(r.air_c, 'C', sys, 0),
        reentry: r.reentry,
        note: r.note,
        why: r.outside_reason ?? '',
        ...bagOf(r),
      },
      r.id,
    )
    setShelf(shelfOf(r, sys))
  }
  const later = save.data && save.data !== 'kept' ? (save.data.later ?? []) : []
  const stops = fromShelf?.stops ?? []
  const asksWhy =
    d.why !== '' || stops.length > 0 || (save.error instanceof Refused && save.error.fields.some((f) => f.field.endsWith('outside_reason')))
  const givesIron = action?.id === 'apply-iron' || action?.id === 'moss-control'
  const may = me.rights.includes('record-treatment')
  const advice = scales.diagnosis.actions.find((a) => a.id === d.action)
  const records = detail.records.filter((r) => r.zone_id === zone.id)
  const replaced = new Set(detail.records.map((r) => r.corrects_id).filter((x) => x !== undefined))
  return (
    <div className="record-page">
      <VisitHead detail={detail} me={me} zone={zone.id} view="record" />
      <main>
        <form
          onSubmit={(e) => {
            e.preventDefault()
            save.mutate(ids)
          }}
          aria-label="Application record"
        >
          <h2>{corrects ? 'Correction of an earlier record' : 'Application record'}</h2>
          <label className="field wide">
            <span>What was done</span>
            <select value={d.action} aria-label="What was done" onChange={(e) => set({ action: e.target.value })}>
              <optgroup label="Advised now">
                {doNow.map((a) => (
                  <option key={a.id} value={a.id}>
                    {a.label}
                  </option>
                ))}
              </optgroup>
              <optgroup label="All actions">
                {words?.raw.actions
                  .filter((a) => a.recorded)
                  .map((a) => (
                    <option key={`all-${a.id}`} value={a.id}>
                      {a.label}
                    </option>
                  ))}
              </optgroup>
            </select>
          </label>
          {advice && advice.verdict !== 'do-now' && (
            <p className="caution">
              The plan says “{verdictWords[advice.verdict]}”: {advice.reasons[0]}
            </p>
          )}
          {advice?.cautions.map((c) => (
            <p key={c} className="caution">
              {c}
            </p>
          ))}
          <div className="fields">
            <Field
              label="Area treated"
              unit={areaUnit}
              value={d.area}
              onChange={(area) => set({ area })}
              hint={`zone ${show(zone.area_m2, 'm2', sys)}, ± ${Math.round(zone.area_error * 100)} %`}
            />
            {hasProduct && proposal.data && (
              <label className="field wide">
                <span>Product on the shelf</span>
                <select
                  aria-label="Product on the shelf"
                  value={shelf.product || (fromShelf?.product_id ?? 'other')}
                  onChange={(e) => setShelf({ ...shelf, product: e.target.value, lot: '', rate: '', carrier: '' })}
                >
                  {proposal.data.products.map((p) => (
                    <option key={p.id} value={p.id}>
                      {p.name}
                      {p.groups.filter(Boolean).length > 0 && ` (group ${p.groups.filter(Boolean).join(', ')})`}
                      {p.price !== undefined && `, ${p.price.toFixed(2)} ${me.currency}`}
                      {!p.open && ` · stopped: ${p.why ?? ''}`}
                    </option>
                  ))}
                  <option value="other">not on the shelf</option>
                </select>
              </label>
            )}
            {fromShelf && <ShelfFields draft={shelf} onChange={setShelf} p={fromShelf} me={me} />}
            {hasProduct && !fromShelf && <Field label="Product" value={d.product} onChange={(product) => set({ product })} />}
            {isFeed && !fromShelf && (
              <>
                <Field label="Nitrogen wanted" unit={rateUnit} value={d.target} onChange={(target) => set({ target })} />
                <Field label="N on the bag" unit="%" value={d.n} onChange={(n) => set({ n })} />
                <Field label="P₂O₅" unit="%" value={d.p2o5} onChange={(p2o5) => set({ p2o5 })} />
                <Field label="K₂O" unit="%" value={d.k2o} onChange={(k2o) => set({ k2o })} />
                <label className="field">
                  <span>Release</span>
                  <select value={d.source} aria-label="Release" onChange={(e) => set({ source: e.target.value as Draft['source'] })}>
                    <option value="">not said</option>
                    <option value="slow">slow</option>
                    <option value="quick">quick</option>
                    <option value="organic">organic</option>
                  </select>
                </label>
              </>
            )}
            {!isFeed && hasProduct && !fromShelf && (
              <>
                <Field label="Amount" unit={d.amountUnit} value={d.amount} onChange={(amount) => set({ amount })} />
                <label className="field">
                  <span>Unit</span>
                  <select value={d.amountUnit} aria-label="Unit" onChange={(e) => set({ amountUnit: e.target.value })}>
                    {packUnits.map((u) => (
                      <option key={u}>{u}</option>
                    ))}
                  </select>
                </label>
              </>
            )}
            {givesIron && !fromShelf && <Field label="Iron (Fe)" unit={rateUnit} value={d.iron} onChange={(iron) => set({ iron })} />}
            {isWater && <Field label="Water given" unit={unitFor('mm', sys)?.label} value={d.water} onChange={(water) => set({ water })} />}
            {action?.pesticide && !fromShelf && (
              <>
                <Field
                  label="Wind"
                  unit={unitFor('m/s', sys)?.label}
                  value={d.wind}
                  onChange={(wind) => set({ wind })}
                  hint={us ? '3 to 10 mph, no inversion' : '1.3 to 4.5 m/s, no inversion'}
                />
                <Field label="Air" unit={unitFor('C', sys)?.label} value={d.air} onChange={(air) => set({ air })} />
                <Field
                  label="Re-entry (when people and pets may return)"
                  value={d.reentry}
                  onChange={(reentry) => set({ reentry })}
                  hint="by the label; not before it is dry, or watered in and dry"
                />
              </>
            )}
            {asksWhy && (
              <Field
                label="Something stands against it: why it was done"
                value={d.why}
                onChange={(why) => set({ why })}
                wide
                hint="it is recorded as it happened, with this reason"
              />
            )}
            <Field label="Note" value={d.note} onChange={(note) => set({ note })} wide />
            <Field
              label="Signed"
              value={d.signed}
              onChange={(signed) => set({ signed })}
              hint={
                action?.pesticide
                  ? me.licence_until
                    ? `licence valid until ${showDate(me.licence_until, me.date_form)}`
                    : 'needs a licence that is valid today'
                  : undefined
              }
            />
          </div>
          {proposal.isError && <Problem error={proposal.error} />}
          {isFeed && sums.isError && <Problem error={sums.error} />}
          {save.isError && <Problem error={save.error} />}
          {may && action?.pesticide && !me.rights.includes('record-pesticide') && (
            <p className="caution">
              <b>A licensed applicator records this.</b>
            </p>
          )}
          {may ? (
            <Button type="primary" htmlType="submit" loading={save.isPending} disabled={save.isSuccess}>
              Sign and record
            </Button>
          ) : (
            <p className="faint">Your role can view records but not add them.</p>
          )}
          {save.isSuccess && (
            <div className="recorded" role="status">
              <p>
                <b>{save.data === 'kept' ? 'Saved on this device.' : 'Recorded.'}</b>{' '}
                {save.data === 'kept' ? (
                  'It goes out when the connection is back; the follow-up is booked then.'
                ) : save.data.follow_up ? (
                  <>
                    The follow-up is booked for{' '}
                    <b className="num" data-follow-up={save.data.follow_up.id}>
                      {showDate(save.data.follow_up.due_on, me.date_form, true)}
                    </b>
                    {later.length > 0 && <>, then {later.map((v) => showDate(v.due_on, me.date_form)).join(', ')}</>}.
                  </>
                ) : (
                  'No follow-up needed.'
                )}
              </p>
              <p>
                <Button onClick={() => afresh({ ...blank, action: '' }, '')}>Record another</Button>{' '}
                <Link className="export" to={`/visits/${detail.visit.id}/${zone.id}/recovery`}>
                  Measure the baseline
                </Link>
              </p>
            </div>
          )}
        </form>
        <section aria-label="Records of this visit">
          {fromShelf && (
            <>
              {stops.length > 0 && (
                <>
                  <h2>Stands against it</h2>
                  <Stops stops={stops} form={me.date_form} />
                </>
              )}
              {fromShelf.duties.length > 0 && (
                <>
                  <h2>Goes with it</h2>
                  <ul className="duties">
                    {fromShelf.duties.map((x) => (
                      <li key={x.id} className="caution">
                        {x.text}
                      </li>
                    ))}
                  </ul>
                </>
              )}
              <ShelfSums p={fromShelf} me={me} visit={detail.visit.id} zone={zone.id} asked={ask} />
            </>
          )}
          {isFeed && !fromShelf && sums.data && (
            <div className="sums">
              {sums.data.lines.map((l) => (
                <p key={l.id} className={l.lead ? 'num' : 'num faint'}>
                  {l.label} <b>{l.text}</b> {l.span && `(${l.span})`}
                </p>
              ))}
              {sums.data.warnings.map((w) => (
                <p key={w} className="caution">
                  {w}
                </p>
              ))}
            </div>
          )}
          <h2>On record for this visit</h2>
          {records.length === 0 && (
            <p className="faint">Nothing yet. A record is never changed; a correction is a new one that names the old.</p>
          )}
          <ul className="records">
            {records.map((r) => (
              <li key={r.id} data-void={r.voided}>
                <b>{words?.action.get(r.action)?.label}</b> <span className="num">{showDate(r.applied_on, me.date_form)}</span>
                <span className="faint">
                  {show(r.area_m2, 'm2', sys)}
                  {r.amount !== undefined ? `, ${r.amount} ${r.amount_unit}` : ''}
                  {r.product ? ` ${r.product}` : ''}
                  {r.started ? `, ${r.started}${r.ended ? ` to ${r.ended}` : ''}` : ''}
                  {r.n_g_m2 !== undefined ? `, ${r.n_g_m2} g N/m²` : ''}, signed {r.signed_name}
                  {r.licence_number ? ` (${r.licence_number})` : ''}
                  {r.corrects_id ? ', corrects an earlier entry' : ''}
                  {replaced.has(r.id) ? ', corrected since' : ''}
                </span>
                {r.closed_until && !r.voided && !replaced.has(r.id) && (
                  <span className="closed">
                    {r.must_water_in
                      ? 'Closed until it is watered in and dry'
                      : `Closed until ${showDate(r.closed_until.slice(0, 10), me.date_form)}, ${r.closed_until.slice(11, 16)}`}
                  </span>
                )}
                {r.flags && <Stops stops={r.flags} form={me.date_form} />}
                {r.flags && r.outside_reason && <span className="faint">Reason: {r.outside_reason}</span>}
                {r.outside?.map((f) => (
                  <span key={f} className="caution">
                    {flags[f]}
                    {r.outside_reason && `: ${r.outside_reason}`}
                  </span>
                ))}
                {may && !replaced.has(r.id) && (
                  <Button size="small" onClick={() => correct(r)}>
                    Correct
                  </Button>
                )}
              </li>
            ))}
          </ul>
          {detail.follow_ups.length > 0 && (
            <>
              <h2>Booked after it</h2>
              <ul className="records">
                {detail.follow_ups.map((f) => (
                  <li key={f.id}>
                    <b className="num">{showDate(f.due_on, me.date_form, true)}</b> <span className="faint">{f.reason}</span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
      </main>
    </div>
  )
}
