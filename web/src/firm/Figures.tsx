import { useState } from 'react'
import { Link } from 'react-router'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { useMe, useWords, type Words } from '../api/queries'
import { percent, showDate, type DateForm, type UnitSystem } from '../format'
import { Busy, Problem } from '../Shell'
import { Checks, Looked, savedSaid, wateredSaid } from './Looked'
import { OwnCases } from './OwnCases'
import { between, shareSaid, tenth, whole, type FigurePart } from './said'
import './figures.css'

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const spans = [
  { years: 1, label: '12 months' },
  { years: 2, label: '2 years' },
  { years: 3, label: '3 years' },
]

/** A verdict on a recovery. */
type Course = 'recovered' | 'on-course' | 'slow' | 'off-course'

/** What the cases behind a figure have in common. */
export interface Behind {
  title: string
  cause?: string
  month?: number
  grass?: string
  which?: 'confirmed' | 'right' | 'wrong' | 'open' | 'timed' | 'treated' | 'saved' | 'watered'
  course?: Course
  check?: string
  decided?: 'yes' | 'no'
}

/** The first day of a span that ends today. */
export function since(today: string, years: number): string {
  const d = new Date(`${today}T00:00:00Z`)
  d.setUTCFullYear(d.getUTCFullYear() - years)
  return d.toISOString().slice(0, 10)
}

/** What the owner looks at: what was seen, how well the diagnoses held, and how the lawns recover. Every figure opens its cases. */
export default function Figures() {
  const me = useMe().data
  const words = useWords()
  const [years, setYears] = useState(1)
  const [behind, setBehind] = useState<Behind>()
  const from = me ? since(me.today, years) : ''
  const to = me?.today ?? ''
  const figures = useQuery({
    queryKey: ['figures', from, to],
    queryFn: () => got(api.GET('/figures', { params: { query: { from, to } } })),
    enabled: from !== '',
    placeholderData: keepPreviousData,
  })
  if (figures.isLoadingError) return <Problem error={figures.error} />
  if (!figures.data || !me || !words) return <Busy what="the figures" />
  const f = figures.data
  return (
    <main className="figures">
      <header>
        <h1>Figures</h1>
        <div className="answers" role="group" aria-label="Span">
          {spans.map((s) => (
            <button key={s.years} type="button" className="answer" aria-pressed={s.years === years} onClick={() => setYears(s.years)}>
              {s.label}
            </button>
          ))}
        </div>
      </header>
      <Facts f={f} currency={me.currency} onOpen={setBehind} />
      <Causes f={f} onOpen={setBehind} />
      <div className="figures-two">
        <Kept f={f} onOpen={setBehind} />
        <Grasses f={f} onOpen={setBehind} />
      </div>
      <div className="figures-two">
        <Checks f={f} onOpen={setBehind} />
        <OwnCases may={me.rights.includes('keep-firm')} />
      </div>
      {behind && (
        <Cases
          key={JSON.stringify(behind)}
          behind={behind}
          from={from}
          to={to}
          words={words}
          form={me.date_form}
          currency={me.currency}
          units={me.unit_system}
          onClose={() => setBehind(undefined)}
        />
      )}
    </main>
  )
}

const half = (m: Schemas['Middle']): string =>
  m.quarter === m.three_quarters ? '' : `half take ${Math.round(m.quarter)} to ${Math.round(m.three_quarters)}`

function Facts({ f, currency, onOpen }: FigurePart & { currency: string }) {
  const m = f.minutes
  return (
    <dl className="facts">
      <div>
        <dt>Lawns diagnosed</dt>
        <dd>
          <button type="button" onClick={() => onOpen({ title: 'All cases' })} data-figure="cases">
            {f.cases}
          </button>
        </dd>
      </div>
      <div>
        <dt>Diagnosis proved right</dt>
        <dd>
          <button type="button" onClick={() => onOpen({ title: 'Closed cases', which: 'confirmed' })} data-figure="confirmed">
            {f.confirmed.n === 0 ? '—' : `${whole(f.confirmed.of / f.confirmed.n)} %`}
          </button>
          <small>{shareSaid(f.confirmed)} of the closed cases</small>
        </dd>
      </div>
      <div>
        <dt>Minutes per visit</dt>
        <dd>
          {m.n === 0 ? (
            <b>—</b>
          ) : (
            <button type="button" onClick={() => onOpen({ title: 'How long the visits took', which: 'timed' })} data-figure="minutes">
              {Math.round(m.median)}
            </button>
          )}
          <small>
            {m.n === 0
              ? 'no visit with arrival and leaving'
              : [`median of ${m.n}`, between(Math.round(m.low), Math.round(m.high)), half(m)].filter(Boolean).join(', ')}
          </small>
        </dd>
      </div>
      <div>
        <dt>Treatments per case</dt>
        <dd>
          {f.treatments.n === 0 ? (
            <b>—</b>
          ) : (
            <button type="button" onClick={() => onOpen({ title: 'Lawns that were treated', which: 'treated' })} data-figure="treatments">
              {f.treatments.mean.toFixed(1)}
            </button>
          )}
          <small>{f.treatments.n > 1 && between(tenth(f.treatments.low), tenth(f.treatments.high))}</small>
        </dd>
      </div>
      <div>
        <dt>Product used of what was planned</dt>
        <dd>
          {f.product.n === 0 ? <b>—</b> : <Link to="/book">{whole(f.product.mean)} %</Link>}
          <small>
            {f.product.n === 0
              ? 'no record says both'
              : [`${f.product.n} records`, f.product.n > 1 && between(whole(f.product.low), whole(f.product.high))]
                  .filter(Boolean)
                  .join(', ')}
          </small>
        </dd>
      </div>
      <Looked f={f} currency={currency} onOpen={onOpen} />
      <div>
        <dt>Lawns recovering</dt>
        <dd>
          <Courses f={f} onOpen={onOpen} />
        </dd>
      </div>
    </dl>
  )
}

const courses: { id: Course; label: string }[] = [
  { id: 'recovered', label: 'recovered' },
  { id: 'on-course', label: 'on course' },
  { id: 'slow', label: 'slow' },
  { id: 'off-course', label: 'off course' },
]

function Courses({ f, onOpen }: FigurePart) {
  const n = new Map(f.courses.map((c) => [c.id, c.n]))
  const list = courses.filter((c) => n.get(c.id))
  if (list.length === 0) return <b>—</b>
  return (
    <ul className="courses">
      {list.map((c) => (
        <li key={c.id} data-verdict={c.id}>
          <button
            type="button"
            onClick={() => onOpen({ title: `Lawns ${c.label}`, course: c.id })}
            aria-label={`${n.get(c.id) ?? 0} lawns ${c.label}`}
          >
            <b>{n.get(c.id)}</b> {c.label}
          </button>
        </li>
      ))}
    </ul>
  )
}

/** The causes down, the months across: the darker a cell, the more cases. */
function Causes({ f, onOpen }: FigurePart) {
  const shown = f.causes.slice(0, 14)
  const most = Math.max(1, ...shown.flatMap((c) => c.months))
  return (
    <section aria-label="Cases by cause and month">
      <h2>What, and when</h2>
      {shown.length === 0 ? (
        <p className="faint">No diagnosis was saved in this span.</p>
      ) : (
        <div className="cause-months">
          <table>
            <thead>
              <tr>
                <th scope="col">Cause</th>
                {months.map((m) => (
                  <th key={m} scope="col">
                    {m}
                  </th>
                ))}
                <th scope="col">All</th>
              </tr>
            </thead>
            <tbody>
              {shown.map((c) => (
                <tr key={c.cause}>
                  <th scope="row">{c.label}</th>
                  {c.months.map((n, i) => (
                    <td key={months[i]}>
                      {n > 0 && (
                        <button
                          type="button"
                          style={{ '--full': `${Math.round((20 + 80 * n) / most)}%` } as React.CSSProperties}
                          onClick={() => onOpen({ title: `${c.label}, ${months[i] ?? ''}`, cause: c.cause, month: i + 1 })}
                          aria-label={`${c.label} in ${months[i] ?? ''}: ${n}`}
                        >
                          {n}
                        </button>
                      )}
                    </td>
                  ))}
                  <td>
                    <button type="button" className="all" onClick={() => onOpen({ title: c.label, cause: c.cause })} data-cause={c.cause}>
                      {c.n}
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

/** How often what was promised came true: a step of chances each, with how far that may be off. */
function Kept({ f, onOpen }: FigurePart) {
  return (
    <section aria-label="What was promised and what came true">
      <h2>Promised, and true in the end</h2>
      {f.calibrated.length === 0 ? (
        <p className="faint">Close cases to see how often the diagnosis was right. Each closed case counts.</p>
      ) : (
        <ul className="kept">
          {f.calibrated.map((b) => (
            <li key={b.from}>
              <span>
                said {whole(b.from)} to {whole(b.to)} %
              </span>
              <span
                className="kept-bar"
                role="img"
                aria-label={`promised ${whole(b.promised)} per cent, true in ${b.of} of ${b.n}, between ${whole(b.low)} and ${whole(b.high)} per cent`}
              >
                <i style={{ left: `${b.low * 100}%`, right: `${100 - b.high * 100}%` }} />
                <b style={{ left: `${(b.of / b.n) * 100}%` }} />
                <em style={{ left: `${b.promised * 100}%` }} />
              </span>
              <span className="num">
                {b.of} of {b.n}
              </span>
            </li>
          ))}
          <li className="faint kept-key">line: promised; block: came true; bar: how far that may be off</li>
        </ul>
      )}
      {f.confirmed.n - f.confirmed.of > 0 && (
        <button
          type="button"
          className="quiet"
          onClick={() => onOpen({ title: 'Turned out otherwise', which: 'wrong' })}
          data-figure="wrong"
        >
          {f.confirmed.n - f.confirmed.of} turned out otherwise
        </button>
      )}
    </section>
  )
}

function Grasses({ f, onOpen }: FigurePart) {
  const most = Math.max(1, ...f.grasses.map((g) => g.n))
  return (
    <section aria-label="Cases by grass">
      <h2>On which grass</h2>
      <ul className="grasses">
        {f.grasses.map((g) => (
          <li key={g.id}>
            <button type="button" onClick={() => onOpen({ title: g.label || 'Grass not told', grass: g.id })}>
              <span>{g.label || 'not told'}</span>
              <i style={{ width: `${(g.n / most) * 100}%` }} />
              <b className="num">{g.n}</b>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** The cases behind a figure. */
function Cases({
  behind,
  from,
  to,
  words,
  form,
  currency,
  units,
  onClose,
}: {
  behind: Behind
  from: string
  to: string
  words: Words
  form: DateForm
  currency: string
  units: UnitSystem
  onClose: () => void
}) {
  const query = {
    from,
    to,
    ...(behind.cause && { cause: behind.cause }),
    ...(behind.month && { month: behind.month }),
    ...(behind.grass && { grass: behind.grass }),
    ...(behind.which && { which: behind.which }),
    ...(behind.check && { check: behind.check }),
    ...(behind.course && { course: behind.course }),
    ...(behind.decided && { decided: behind.decided }),
  }
  const cases = useQuery({
    queryKey: ['figures', 'cases', query],
    queryFn: () => got(api.GET('/figures/cases', { params: { query } })),
  })
  const label = (id: string) => words.cause.get(id)?.label ?? id
  const file = new URLSearchParams(Object.entries(query).map(([k, v]) => [k, String(v)]))
  return (
    <section className="figure-cases" aria-label="Cases">
      <h2>
        {behind.title}{' '}
        <a className="export" href={`/api/v1/figures/csv?${file.toString()}`}>
          As CSV
        </a>{' '}
        <button type="button" className="quiet" onClick={onClose}>
          Close
        </button>
      </h2>
      {cases.isLoadingError && <Problem error={cases.error} />}
      <ul>
        {cases.data?.map((c) => (
          <li key={`${c.visit_id}${c.zone_id}`}>
            <span className="num">{showDate(c.given_on, form)}</span>
            <Link to={`/zones/${c.zone_id}/recovery`}>
              {c.site}, {c.zone}
            </Link>
            <span>
              {c.cause === '' ? 'not diagnosed' : `${label(c.cause)} ${percent(c.probability)} %`}
              {c.confirmed && c.confirmed !== c.cause && `; was ${label(c.confirmed).toLowerCase()}`}
              {c.confirmed && c.confirmed === c.cause && '; confirmed'}
              {behind.which === 'timed' && c.minutes !== undefined && `; ${Math.round(c.minutes)} min`}
              {behind.which === 'treated' && `; ${c.treatments} ${c.treatments === 1 ? 'treatment' : 'treatments'}`}
              {behind.which === 'saved' && c.saved !== undefined && `; ${savedSaid(c.saved, currency)}`}
              {behind.which === 'watered' && wateredSaid(c, units)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}
