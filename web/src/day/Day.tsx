import { useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import { useDay, useMe, type Begins } from '../api/queries'
import type { Schemas } from '../api/client'
import { Busy, Problem } from '../Shell'
import { count, fromSI, reader, show, showDate, unitFor } from '../format'
import { kindLabel, useSamples } from '../samples/useSamples'
import { Tick } from '../ui/Field'
import { useAhead } from '../offline/ahead'
import { Calls } from '../calls/Calls'
import { Watch } from './Watch'
import { ClosedZones, DueJobs } from './Work'
import './day.css'

const sprayWords: Record<string, string> = {
  fit: 'fit to spray',
  wind: 'too windy or still',
  rain: 'rain',
  heat: 'too hot to spray',
  cold: 'too cold to spray',
  unknown: 'not known',
}

interface Listed {
  list: Schemas['DayVisit'][]
  total: number
  me: Schemas['Me']
  head: string
  none: string
}

/** When somebody is there, and when they are expected. */
function When({ d, me }: { d: Schemas['DayVisit']; me: Schemas['Me'] }) {
  const hours = d.visit.hours
  return (
    <>
      {d.arrive && <span className="num due-arrive">about {d.arrive}</span>}
      {hours && (
        <span className="num faint" data-late={d.late > 0}>
          expected {hours.from}–{hours.to}
          {d.late > 0 && <b>, {d.late} min late</b>}
        </span>
      )}
      <span className="num faint">
        {d.overdue
          ? `overdue since ${showDate(d.visit.due_on, me.date_form)}`
          : d.visit.due_on === me.today
            ? `${d.zones} ${d.zones === 1 ? 'zone' : 'zones'}`
            : showDate(d.visit.due_on, me.date_form, true)}
      </span>
    </>
  )
}

function Visits({ list, total, me, head, none, children }: Listed & { children?: ReactNode }) {
  const people = new Set(list.map((d) => d.visit.person_name ?? ''))
  return (
    <section aria-label={head}>
      <h2>
        {head} <small className="num faint">{count(total)}</small>
      </h2>
      {children}
      {list.length === 0 && <p className="faint">{none}</p>}
      <ol className="due">
        {list.map((d) => (
          <li key={d.visit.id}>
            <Link
              to={
                d.visit.kind === 'follow-up' && d.visit.zone_id
                  ? `/visits/${d.visit.id}/${d.visit.zone_id}/recovery`
                  : `/visits/${d.visit.id}`
              }
              data-visit={d.visit.id}
              data-overdue={d.overdue}
            >
              <span className="due-order num">{d.order || '·'}</span>
              <span className="due-what">
                <b>{d.visit.site_name}</b> <span className="faint">{d.visit.client_name}</span>
                <span className="due-reason">
                  {people.size > 1 && <b>{d.visit.person_name || 'Nobody yet'}: </b>}
                  {d.visit.reason}
                </span>
              </span>
              <span className="due-side">
                <span className="due-kind" data-kind={d.visit.kind}>
                  {d.visit.kind === 'follow-up' ? 'follow-up' : 'diagnose'}
                </span>
                <When d={d} me={me} />
              </span>
            </Link>
          </li>
        ))}
      </ol>
      {total > list.length && (
        <p className="faint">
          The first {list.length} of {count(total)} are shown.
        </p>
      )}
    </section>
  )
}

function Sky({ sky, me }: { sky: Schemas['DaySky'][]; me: Schemas['Me'] }) {
  if (sky.length === 0) return null
  const r = reader(me.unit_system)
  const t = (c: number) => Math.round(r.c(c))
  return (
    <section className="sky" aria-label="Weather ahead">
      <h2>Spray weather</h2>
      <p className="faint">
        {sky[0]?.station}, {r.temperature}, {r.water} of rain, wind in {unitFor('m/s', me.unit_system)?.label}
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">Day</th>
            <th scope="col" className="num">
              low
            </th>
            <th scope="col" className="num">
              high
            </th>
            <th scope="col" className="num">
              rain
            </th>
            <th scope="col" className="num">
              wind
            </th>
            <th scope="col">spraying</th>
          </tr>
        </thead>
        <tbody>
          {sky.map((d) => (
            <tr key={d.date} data-spray={d.spray}>
              <th scope="row">{d.date === me.today ? 'Today' : showDate(d.date, 'dmy', true).replace(/ \d{4}$/, '')}</th>
              <td className="num">{t(d.tmin_c)}</td>
              <td className="num" data-hot={d.tmax_c >= 32}>
                {t(d.tmax_c)}
              </td>
              <td className="num" data-wet={d.rain_mm >= 1}>
                {r.depth(d.rain_mm)}
              </td>
              <td className="num">{fromSI(d.wind_ms, 'm/s', me.unit_system).toFixed(1)}</td>
              <td>
                {d.by_hour && d.spray === 'fit' ? (
                  <span className="num">{d.hours.map((h) => `${h.from}–${h.to} h`).join(', ')}</span>
                ) : (
                  sprayWords[d.spray]
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** What the laboratory has sent back lately, and what is still awaited. */
function Laboratory({ me }: { me: Schemas['Me'] }) {
  const samples = useSamples({ open: true })
  if (!samples.data || samples.data.length === 0) return null
  const list = [...samples.data].sort(
    (a, b) => Number(Boolean(b.returned_on)) - Number(Boolean(a.returned_on)) || Number(b.overdue) - Number(a.overdue),
  )
  return (
    <section className="straying" aria-label="Laboratory">
      <h2>Laboratory</h2>
      {list.slice(0, 6).map((s) => (
        <Link
          key={s.id}
          to={`/visits/${s.visit_id}/${s.zone_id}`}
          data-verdict={s.returned_on ? 'back' : s.overdue ? 'off-course' : 'awaited'}
        >
          <b>{s.returned_on ? 'Back' : s.overdue ? 'Overdue' : 'Awaited'}</b> {kindLabel[s.kind]} <span className="num">{s.number}</span>,{' '}
          {s.site_name}, {s.zone_name}
          <span className="faint">
            {s.returned_on
              ? `since ${showDate(s.returned_on, me.date_form)}: it is on the scales`
              : `expected ${showDate(s.expected_on, me.date_form)}`}
          </span>
        </Link>
      ))}
    </section>
  )
}

/** What lies on the device for the day: it opens without a connection. */
function OnDevice({ day }: { day: Schemas['Day'] }) {
  const ahead = useAhead(day)
  if (ahead.of === 0) return null
  const all = ahead.done === ahead.of
  return (
    <p className="faint" data-on-device={all ? 'all' : 'some'} role="status">
      {all
        ? `${ahead.of === 1 ? 'The visit' : `All ${ahead.of} visits`} of today can be done without a connection.`
        : `Fetching the visits of today for when there is no connection: ${ahead.done} of ${ahead.of} …`}
    </p>
  )
}

/** Lets the round begin where the device is, now. */
function FromHere({
  list,
  system,
  begins,
  onBegins,
}: {
  list: Schemas['DayVisit'][]
  system: Schemas['Me']['unit_system']
  begins?: Begins
  onBegins: (b?: Begins) => void
}) {
  const [problem, setProblem] = useState('')
  const [busy, setBusy] = useState(false)
  const km = list.reduce((sum, d) => sum + d.km, 0)
  if (list.filter((d) => d.order > 0).length < 2) return null
  const here = () => {
    setProblem('')
    setBusy(true)
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        const now = new Date()
        const leave = `${String(now.getHours()).padStart(2, '0')}:${String(now.getMinutes()).padStart(2, '0')}`
        setBusy(false)
        onBegins({ from: `${coords.latitude.toFixed(4)},${coords.longitude.toFixed(4)}`, leave })
      },
      () => {
        setBusy(false)
        setProblem('This device does not say where it is. Allow it in the browser, or drive in the order shown.')
      },
      { timeout: 15_000, maximumAge: 60_000 },
    )
  }
  return (
    <p className="round">
      <button
        type="button"
        className="answer"
        aria-pressed={begins !== undefined}
        disabled={busy}
        onClick={() => (begins ? onBegins() : here())}
      >
        {begins ? 'From here, now' : 'Start from here, now'}
      </button>{' '}
      <span className="faint num">about {show(km, 'km', system)} of driving</span>
      {problem && (
        <span className="problem" role="alert">
          {problem}
        </span>
      )}
    </p>
  )
}

export default function Day() {
  const [mine, setMine] = useState(false)
  const [begins, setBegins] = useState<Begins>()
  const day = useDay(mine, begins)
  const me = useMe().data
  if (day.isLoadingError) return <Problem error={day.error} />
  if (!day.data || !me) return <Busy what="the day" />
  const d = day.data
  return (
    <main className="day">
      <div>
        <h1 className="sr-only">The day</h1>
        <Tick label="Only my visits" value={mine} onChange={setMine} />
        <OnDevice day={d} />
        <Visits list={d.due} total={d.due_total} me={me} head="Due today" none="Nothing is due. Book a visit from a site's page.">
          <FromHere list={d.due} system={me.unit_system} {...(begins ? { begins } : {})} onBegins={setBegins} />
        </Visits>
        {d.done.length > 0 && <Visits list={d.done} total={d.done_total} me={me} head="Done today" none="" />}
        <Visits list={d.coming} total={d.coming_total} me={me} head="The next seven days" none="Nothing is booked." />
      </div>
      <div>
        <Calls me={me} />
        {me.rights.includes('keep-sites') && (
          <p>
            <Link className="back" to="/messages">
              Letters to clients
            </Link>
          </p>
        )}
        <ClosedZones closed={d.closed} me={me} />
        <DueJobs jobs={d.jobs} me={me} />
        <Watch day={d} me={me} />
        {d.straying.length > 0 && (
          <section className="straying" aria-label="Not on course">
            <h2>Not on course</h2>
            {d.straying.map((s) => (
              <Link key={s.zone_id} to={`/zones/${s.zone_id}/recovery`} data-verdict={s.verdict}>
                <b>{s.verdict === 'off-course' ? 'Off course' : 'Slow'}</b> {s.site_name}, {s.zone_name}
                <span className="faint">{s.reason}</span>
              </Link>
            ))}
          </section>
        )}
        <Laboratory me={me} />
        <Sky sky={d.sky} me={me} />
      </div>
    </main>
  )
}
