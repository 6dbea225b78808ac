import { useEffect, useMemo, useRef, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { useMe, useSiteOfZone, useVisit } from '../api/queries'
import { reader, showDate, type Reader } from '../format'
import { Busy, Problem } from '../Shell'
import { VisitHead } from '../visit/VisitHead'
import { typing } from '../visit/keys'
import { chartHeight, makeChart, skyOption, tick, type EChartsType, type Span } from './chart'
import { asCSV } from './csv'
import { Series } from './Series'
import { Watering } from '../watering/Watering'
import type { Place } from '../watering/place'
import './sky.css'

/** Weather and ground of a zone on a visit. */
export default function Sky() {
  const { visit = '', zone = '' } = useParams()
  const me = useMe().data
  const detail = useVisit(visit)
  if (detail.isLoadingError) return <Problem error={detail.error} />
  if (!detail.data || !me) return <Busy what="sky and ground" />
  return (
    <div className="sky-page">
      <VisitHead detail={detail.data} me={me} zone={zone} view="sky" />
      <SkyPane place={{ visit, zone }} site={detail.data.site} me={me} />
    </div>
  )
}

/** The same of a zone today, without a visit. */
export function ZoneSky() {
  const { zone = '' } = useParams()
  const me = useMe().data
  const found = useSiteOfZone(zone)
  if (found.isLoadingError) return <Problem error={found.error} />
  if (!found.data || !me) return <Busy what="sky and ground" />
  const site = found.data
  return (
    <div className="sky-page">
      <header className="visit-head">
        <div className="visit-place">
          <h1>{site.name}</h1>
          <span className="faint">{site.client_name}, sky and ground today</span>
        </div>
        <div className="zones" role="group" aria-label="Zones">
          {(site.zones ?? []).map((z) => (
            <Link key={z.id} to={`/zones/${z.id}/sky`} aria-current={z.id === zone ? 'true' : undefined}>
              {z.name}
            </Link>
          ))}
        </div>
        <div className="views">
          <Link to={`/sites/${site.id}`}>The site</Link>
          <Link to={`/zones/${zone}/recovery`}>Recovery</Link>
        </div>
      </header>
      <SkyPane place={{ zone }} site={site} me={me} />
    </div>
  )
}

function SkyPane({ place, site, me }: { place: Place; site: Schemas['Site']; me: Schemas['Me'] }) {
  const { visit, zone } = place
  const [weeks, setWeeks] = useState(12)
  const sky = useQuery({
    queryKey: ['sky', visit, zone, weeks],
    queryFn: () =>
      visit
        ? got(api.GET('/visits/{id}/zones/{zone}/sky', { params: { path: { id: visit, zone }, query: { weeks } } }))
        : got(api.GET('/zones/{id}/sky', { params: { path: { id: zone }, query: { weeks } } })),
    placeholderData: (old) => old,
  })
  const [span, setSpan] = useState<Span | undefined>()
  const [table, setTable] = useState(false)
  const r = useMemo(() => reader(me.unit_system), [me.unit_system])
  if (sky.isLoadingError) return <Problem error={sky.error} />
  if (!sky.data) return <Busy what="sky and ground" />
  const v = sky.data
  return (
    <main>
      <section className="sky-left" aria-label="Weather and ground">
        <div className="sky-tools">
          <span className="faint">
            {v.station}
            {v.simulated && ', simulated'}
            {!v.wet_by_hour && '; wet hours are estimated'}
          </span>
          <label>
            Back{' '}
            <select className="plain" aria-label="Weeks back" value={weeks} onChange={(e) => setWeeks(Number(e.target.value))}>
              {[6, 12, 26, 52].map((w) => (
                <option key={w} value={w}>
                  {w} weeks
                </option>
              ))}
            </select>
          </label>
          <button type="button" className="plain-button" aria-pressed={table} onClick={() => setTable(!table)}>
            {table ? 'Chart' : 'Table'}
          </button>
          <a className="plain-button" download={`sky-${v.today}.csv`} href={`data:text/csv;charset=utf-8,${encodeURIComponent(asCSV(v))}`}>
            CSV
          </a>
        </div>
        {v.days.length === 0 ? (
          <p className="empty">No weather for this site. Choose a station or import on-site measurements.</p>
        ) : table ? (
          <DayTable v={v} r={r} />
        ) : (
          <Chart v={v} span={span} r={r} />
        )}
        <Series site={site} zone={zone} me={me} />
      </section>
      <aside aria-label="What stands out">
        <h2>What stands out</h2>
        <ol className="sentences">
          {v.sentences.map((s) => (
            <li key={s.text}>
              <button
                type="button"
                aria-pressed={span?.from === s.from && span.to === s.to}
                data-row={s.row}
                onClick={() => {
                  setTable(false)
                  setSpan(span?.from === s.from && span.to === s.to ? undefined : { from: s.from, to: s.to })
                }}
              >
                {s.text}
              </button>
            </li>
          ))}
        </ol>
        <dl className="rain-sums">
          <div>
            <dt>Rain of 3, 7, 14, 30 days</dt>
            <dd className="num">
              {[v.rain.days_3, v.rain.days_7, v.rain.days_14, v.rain.days_30].map((x) => r.depth(x)).join(', ')} {r.water}
            </dd>
          </div>
          <div>
            <dt>
              Days without {r.depth(5)} {r.water}
            </dt>
            <dd className="num">{v.rain.since_5_mm}</dd>
          </div>
          {v.frost.nights > 0 && v.frost.lowest_c != null && (
            <div>
              <dt>Frost in sixty nights</dt>
              <dd className="num">
                {v.frost.nights}, {v.frost.killing} of them killing, down to {r.c(v.frost.lowest_c).toFixed(0)} {r.temperature}
              </dd>
            </div>
          )}
          {v.frost.next_on && (
            <div>
              <dt>Next frost by the forecast</dt>
              <dd className="num">{showDate(v.frost.next_on, me.date_form, true)}</dd>
            </div>
          )}
          <div>
            <dt>Endurance without water</dt>
            <dd className="num">
              {v.endurance.weeks > 0
                ? `${Math.round(v.endurance.used * 100)} % used of ${v.endurance.weeks.toFixed(1)} weeks`
                : 'no value for this grass'}
            </dd>
          </div>
        </dl>
        <Watering place={place} site={site.id} me={me} />
        {v.missing.length > 0 && <p className="notice">{v.missing.join('; ')}.</p>}
        {v.assumed.length > 0 && <p className="faint">Assumed: {v.assumed.join('; ')}.</p>}
      </aside>
    </main>
  )
}

function Chart({ v, span, r }: { v: Schemas['SkyView']; span: Span | undefined; r: Reader }) {
  const el = useRef<HTMLDivElement>(null)
  const chart = useRef<EChartsType | undefined>(undefined)
  const [theme, setTheme] = useState(document.documentElement.dataset['theme'] === 'dusk' ? ('dusk' as const) : ('sun' as const))
  const option = useMemo(() => skyOption(v, theme, span, r), [v, theme, span, r])
  useEffect(() => {
    if (!el.current) return
    const made = makeChart(el.current)
    chart.current = made
    const resize = new ResizeObserver(() => made.resize())
    resize.observe(el.current)
    const themed = new MutationObserver(() => setTheme(document.documentElement.dataset['theme'] === 'dusk' ? 'dusk' : 'sun'))
    themed.observe(document.documentElement, { attributeFilter: ['data-theme'] })
    return () => {
      resize.disconnect()
      themed.disconnect()
      made.dispose()
    }
  }, [])
  useEffect(() => {
    chart.current?.setOption(option, { replaceMerge: ['series', 'yAxis', 'xAxis', 'grid'] })
  }, [option])
  useEffect(() => {
    const move = (zoom: number, shift: number) => {
      const made = chart.current
      const now = (made?.getOption()['dataZoom'] as { start: number; end: number }[] | undefined)?.[0]
      if (!made || !now) return
      const width = Math.max(8, Math.min(100, (now.end - now.start) * zoom))
      const middle = (now.start + now.end) / 2 + shift * (now.end - now.start)
      const start = Math.max(0, Math.min(100 - width, middle - width / 2))
      made.dispatchAction({ type: 'dataZoom', start, end: start + width })
    }
    const onKey = (e: KeyboardEvent) => {
      if (typing(e.target) || e.ctrlKey || e.metaKey || e.altKey) return
      const how = { '+': [0.6, 0], '=': [0.6, 0], '-': [1.7, 0], ArrowLeft: [1, -0.25], ArrowRight: [1, 0.25], '0': [100, 0] }[e.key]
      if (!how) return
      move(how[0] ?? 1, how[1] ?? 0)
      e.preventDefault()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [])
  const picture = () => {
    const url = chart.current?.getDataURL({
      type: 'png',
      pixelRatio: 2,
      backgroundColor: getComputedStyle(document.documentElement).getPropertyValue('--sheet'),
    })
    if (!url) return
    const a = document.createElement('a')
    a.href = url
    a.download = `sky-${v.today}.png`
    a.click()
  }
  return (
    <>
      <div
        ref={el}
        className="sky-chart"
        style={{ height: chartHeight(v.bands.length) }}
        role="img"
        aria-label={`Weather and ground from ${v.days[0]?.date ?? ''} to ${v.days.at(-1)?.date ?? ''}; the button Table shows the same as a table`}
      />
      <p className="faint sky-hint">
        <kbd>+</kbd> <kbd>−</kbd> zoom, <kbd>←</kbd> <kbd>→</kbd> pan, <kbd>0</kbd> reset; pinch and drag also work.{' '}
        <button type="button" className="quiet" onClick={picture}>
          Picture (PNG)
        </button>{' '}
        ▲ done, ◆ read, ■ visit
      </p>
    </>
  )
}

function DayTable({ v, r }: { v: Schemas['SkyView']; r: Reader }) {
  const n = (x: number | null, digits = 0) => (x == null ? '–' : x.toFixed(digits))
  const c = (x: number | null) => (x == null ? '–' : r.c(x).toFixed(0))
  const water = (x: number | null) => (x == null ? '–' : r.depth(x, true))
  return (
    <div className="sky-table">
      <table>
        <thead>
          <tr>
            <th scope="col">Day</th>
            <th scope="col" className="num">
              low {r.temperature}
            </th>
            <th scope="col" className="num">
              high
            </th>
            <th scope="col" className="num">
              soil
            </th>
            <th scope="col" className="num">
              soil p.m.
            </th>
            <th scope="col" className="num">
              rain {r.water}
            </th>
            <th scope="col" className="num">
              left {r.water}
            </th>
            <th scope="col" className="num">
              wet h
            </th>
            <th scope="col" className="num">
              growth
            </th>
            <th scope="col">Open</th>
          </tr>
        </thead>
        <tbody>
          {[...v.days].reverse().map((d, k) => {
            const i = v.days.length - 1 - k
            return (
              <tr key={d.date} data-forecast={d.forecast}>
                <th scope="row">
                  {tick(d.date)}
                  {d.forecast && <span className="faint"> forecast</span>}
                  {v.onset === d.date && <b> first seen</b>}
                </th>
                <td className="num">{c(d.tmin_c)}</td>
                <td className="num">{c(d.tmax_c)}</td>
                <td className="num">{c(d.soil_mean_c)}</td>
                <td className="num">{c(d.soil_peak_c)}</td>
                <td className="num">{water(d.rain_mm)}</td>
                <td className="num">{water(d.depletion_mm == null ? null : v.total_mm - d.depletion_mm)}</td>
                <td className="num">{n(d.wet_hours, 1)}</td>
                <td className="num">{n(d.growth, 2)}</td>
                <td>
                  {[
                    ...v.bands.filter((b) => (b.strength[i] ?? 0) >= 0.5).map((b) => b.label),
                    ...v.events.filter((m) => m.date === d.date).map((m) => m.text),
                  ].join(', ')}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
    </div>
  )
}
