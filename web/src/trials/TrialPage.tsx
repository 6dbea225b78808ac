import { useState } from 'react'
import { Button } from 'antd'
import { Link, useParams } from 'react-router'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useMe } from '../api/queries'
import { readNumber, showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { Day, Pick, Text } from '../ui/Field'
import { cautionSaid, curves, suppressionSaid, treatmentSaid, type Curve } from './words'
import '../recovery/recovery.css'
import './trials.css'

const W = 720
const H = 300
const pad = { left: 54, right: 150, top: 14, bottom: 36 }
const dashes = ['', '8 4', '2 4', '12 4 2 4', '5 2', '1 3']

/** The course of each treatment: the untreated as a thick line, the others told apart by their dashes and their names. */
function Curves({ t, label }: { t: Schemas['Trial']; label: (key: string) => string }) {
  const list = curves(t).filter((c) => c.points.length > 0)
  const all = list.flatMap((c) => c.points)
  if (all.length === 0) return <p className="empty">Nothing has been read yet.</p>
  const last = Math.max(7, ...all.map(([d]) => d))
  const top = Math.max(10, Math.ceil(Math.max(...all.map(([, v]) => v)) / 10) * 10)
  const x = (d: number) => pad.left + (d / last) * (W - pad.left - pad.right)
  const y = (v: number) => pad.top + (1 - v / top) * (H - pad.top - pad.bottom)
  const path = (c: Curve) => c.points.map(([d, v], i) => `${i ? 'L' : 'M'}${x(d).toFixed(1)} ${y(v).toFixed(1)}`).join('')
  const ends = list
    .map((c, i) => ({ c, i, at: y(c.points.at(-1)?.[1] ?? 0) }))
    .sort((a, b) => a.at - b.at)
    .reduce<{ c: Curve; i: number; at: number }[]>((out, e) => [...out, { ...e, at: Math.max(e.at, (out.at(-1)?.at ?? -99) + 17) }], [])
  return (
    <svg
      className="course curves"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={list
        .map((c) => `${label(c.key)}: ${c.points.map(([d, v]) => `${Math.round(v)} per cent on day ${d}`).join(', ')}`)
        .join('; ')}
    >
      {[0, top / 2, top].map((v) => (
        <g key={v}>
          <line className="grid" x1={pad.left} x2={W - pad.right} y1={y(v)} y2={y(v)} />
          <text className="tick" x={pad.left - 8} y={y(v) + 5} textAnchor="end">
            {v}
            {v === top ? ' %' : ''}
          </text>
        </g>
      ))}
      <text className="tick" x={pad.left} y={H - 10}>
        day 0
      </text>
      <text className="tick" x={W - pad.right} y={H - 10} textAnchor="end">
        day {last}
      </text>
      {list.map((c, i) => (
        <g key={c.key} data-untreated={c.untreated}>
          <path className="curve" d={path(c)} strokeDasharray={dashes[i % dashes.length]} />
          {c.points.map(([d, v]) => (
            <circle key={d} className="curve-point" cx={x(d)} cy={y(v)} r="4" />
          ))}
        </g>
      ))}
      {ends.map(({ c, at }) => (
        <text key={c.key} className="curve-name" x={W - pad.right + 10} y={at + 5}>
          {label(c.key)}
        </text>
      ))}
    </svg>
  )
}

function Told({ r }: { r: Schemas['TrialRead'] }) {
  if (r.groups.length === 0) return null
  const unit = r.trial.dose_unit ?? ''
  return (
    <section aria-label="What it tells">
      <h2>What it tells</h2>
      <table className="table">
        <thead>
          <tr>
            <th scope="col">Treatment</th>
            <th scope="col" className="num">
              plots
            </th>
            <th scope="col" className="num">
              area, % days
            </th>
            <th scope="col" className="num">
              last day
            </th>
            <th scope="col">against untreated</th>
          </tr>
        </thead>
        <tbody>
          {r.groups.map((g) => (
            <tr key={`${g.treatment} ${g.dose}`}>
              <th scope="row">{treatmentSaid(g, unit)}</th>
              <td className="num">{g.plots}</td>
              <td className="num">{Math.round(g.area.mean)}</td>
              <td className="num">{Math.round(g.last.mean)} %</td>
              <td>{suppressionSaid(g.suppressed)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {r.doses && (
        <p>
          Each {unit || 'unit'} more of the dose takes {Math.round(-r.doses.slope)} % days off the area ({Math.round(-r.doses.high)} to{' '}
          {Math.round(-r.doses.low)}); the dose explains {Math.round(r.doses.fits * 100)} % of the differences.
        </p>
      )}
      {r.uptake && (
        <p>
          Each {unit || 'unit'} more puts {r.uptake.slope.toFixed(2)} points into the leaf ({r.uptake.low.toFixed(2)} to{' '}
          {r.uptake.high.toFixed(2)}).
        </p>
      )}
      {r.cautions.map((c) => (
        <p key={c} className="notice">
          {cautionSaid[c]}
        </p>
      ))}
    </section>
  )
}

/** A key for the next reading of each plot: what is sent again is taken once. */
const keysFor = (t: Schemas['Trial']) => Object.fromEntries(t.plots.map((p) => [p.id, newId()]))

function Readings({ r, today, form }: { r: Schemas['TrialRead']; today: string; form: Schemas['Me']['date_form'] }) {
  const client = useQueryClient()
  const [on, setOn] = useState(today)
  const [kind, setKind] = useState<'affected' | 'uptake'>('affected')
  const [values, setValues] = useState<Record<string, string>>({})
  const [keys, setKeys] = useState<Record<string, string>>(() => keysFor(r.trial))
  const numbers = r.trial.plots.flatMap((p) => {
    const n = readNumber(values[p.id] ?? '')
    return n === undefined ? [] : [{ id: keys[p.id] ?? newId(), plot_id: p.id, value: n }]
  })
  const wrong = Object.values(values).some((v) => v.trim() !== '' && !((readNumber(v) ?? -1) >= 0 && (readNumber(v) ?? 101) <= 100))
  const save = useMutation({
    mutationFn: () =>
      got(api.POST('/trials/{id}/readings', { params: { path: { id: r.trial.id } }, body: { kind, on, readings: numbers } })),
    onSuccess: (out) => {
      client.setQueryData(['trial', r.trial.id], out)
      setValues({})
      setKeys(keysFor(r.trial))
    },
  })
  return (
    <form
      className="form"
      aria-label="Read the plots"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h2>Read the plots</h2>
      <Day label="On" value={on} onChange={setOn} form={form} max={today} min={r.trial.began_on} />
      <Pick
        label="What"
        value={kind}
        onChange={setKind}
        options={[
          ['affected', 'share affected, %'],
          ['uptake', 'uptake in the leaf, % of dry matter'],
        ]}
      />
      <div className="plots">
        {r.trial.plots.map((p) => (
          <label key={p.id} className="field" data-void={!!p.void}>
            <span>
              {p.name}{' '}
              <small className="faint">{treatmentSaid({ treatment: p.treatment ?? '', dose: p.dose ?? 0 }, r.trial.dose_unit ?? '')}</small>
            </span>
            <input
              className="number-field"
              inputMode="decimal"
              aria-label={`Plot ${p.name}`}
              value={values[p.id] ?? ''}
              placeholder={String((p.readings ?? []).filter((x) => x.kind === kind).at(-1)?.value ?? '—')}
              onChange={(e) => setValues({ ...values, [p.id]: e.target.value })}
            />
          </label>
        ))}
      </div>
      {wrong && (
        <p className="problem" role="alert">
          Enter 0 to 100.
        </p>
      )}
      {save.isError && <Problem error={save.error} />}
      <Button type="primary" htmlType="submit" loading={save.isPending} disabled={numbers.length === 0 || wrong}>
        Save the readings
      </Button>
    </form>
  )
}

function Plots({ r, may }: { r: Schemas['TrialRead']; may: boolean }) {
  const client = useQueryClient()
  const [plot, setPlot] = useState('')
  const [why, setWhy] = useState('')
  const change = useMutation({
    mutationFn: (b: { plot: string; void: string }) =>
      got(api.PUT('/trials/{id}/plots/{plot}/void', { params: { path: { id: r.trial.id, plot: b.plot } }, body: { void: b.void } })),
    onSuccess: (out) => {
      client.setQueryData(['trial', r.trial.id], out)
      setPlot('')
      setWhy('')
    },
  })
  return (
    <section aria-label="Plots">
      <h2>Plots</h2>
      <ul className="records">
        {r.trial.plots.map((p) => (
          <li key={p.id} data-void={!!p.void}>
            <b>{p.name}</b> {treatmentSaid({ treatment: p.treatment ?? '', dose: p.dose ?? 0 }, r.trial.dose_unit ?? '')}
            {p.void && <span className="faint">, left out: {p.void}</span>}{' '}
            {may &&
              (p.void ? (
                <button type="button" className="quiet" onClick={() => change.mutate({ plot: p.id, void: '' })}>
                  Count it again
                </button>
              ) : (
                <button type="button" className="quiet" onClick={() => setPlot(p.id)}>
                  Leave it out
                </button>
              ))}
            {plot === p.id && (
              <form
                onSubmit={(e) => {
                  e.preventDefault()
                  change.mutate({ plot: p.id, void: why })
                }}
              >
                <Text label="What happened to it" value={why} onChange={setWhy} />
                <Button htmlType="submit" disabled={why.trim() === ''} loading={change.isPending}>
                  Leave plot {p.name} out
                </Button>
              </form>
            )}
          </li>
        ))}
      </ul>
      {change.isError && <Problem error={change.error} />}
    </section>
  )
}

/** A trial: its curves, what they tell, and what hides behind the sums. */
export default function TrialPage() {
  const { trial = '' } = useParams()
  const client = useQueryClient()
  const me = useMe().data
  const data = useQuery({ queryKey: ['trial', trial], queryFn: () => got(api.GET('/trials/{id}', { params: { path: { id: trial } } })) })
  const close = useMutation({
    mutationFn: () => got(api.POST('/trials/{id}/close', { params: { path: { id: trial } } })),
    onSuccess: (out) => client.setQueryData(['trial', trial], out),
  })
  if (data.isLoadingError) return <Problem error={data.error} />
  if (!data.data || !me) return <Busy what="the trial" />
  const r = data.data
  const unit = r.trial.dose_unit ?? ''
  const may = me.rights.includes('answer-checks') && !r.trial.closed_on
  const label = (key: string) => {
    const [treatment = '', dose = '0'] = key.split('\u0000')
    return treatmentSaid({ treatment, dose: Number(dose) }, unit)
  }
  return (
    <main className="trial-page two-columns">
      <header>
        <h1>{r.trial.name}</h1>
        <p className="faint">
          <Link to={`/zones/${r.trial.zone_id}/recovery`}>
            {r.site_name}, {r.zone_name}
          </Link>
          , since {showDate(r.trial.began_on, me.date_form)}
          {r.trial.closed_on && `, closed ${showDate(r.trial.closed_on, me.date_form)}`}
        </p>
        {r.trial.question && <p>{r.trial.question}</p>}
      </header>
      <div>
        <Curves t={r.trial} label={label} />
        <Told r={r} />
      </div>
      <div>
        {may && <Readings r={r} today={me.today} form={me.date_form} />}
        <Plots r={r} may={may} />
        {may && (
          <Button loading={close.isPending} onClick={() => close.mutate()}>
            Close the trial
          </Button>
        )}
        {close.isError && <Problem error={close.error} />}
      </div>
    </main>
  )
}
