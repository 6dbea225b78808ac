import { useEffect, useState } from 'react'
import { Button } from 'antd'
import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { useMe, useRefresh, useWords } from '../api/queries'
import { percent, readNumber, showDate } from '../format'
import { FamilyMark } from '../scales/Family'
import { Busy, Problem } from '../Shell'
import './firm.css'

type Figures = Schemas['Prices']
/** A figure, what it is for in each system, and how many of the metric amount the customary one is. */
const fields: { k: keyof Figures; label: string; per: string; us: string; times: number }[] = [
  { k: 'lawn_m2', label: 'Lawn, laid anew', per: 'a square metre', us: 'a square foot', times: 0.09290304 },
  { k: 'hour', label: 'An hour of work', per: '', us: '', times: 1 },
  { k: 'fungicide', label: 'Fungicide', per: 'for 100 m², once', us: 'for 1,000 ft², once', times: 0.9290304 },
  { k: 'insecticide', label: 'Insecticide', per: 'for 100 m², once', us: 'for 1,000 ft², once', times: 0.9290304 },
  { k: 'herbicide', label: 'Herbicide', per: 'for 100 m², once', us: 'for 1,000 ft², once', times: 0.9290304 },
  { k: 'feed', label: 'Feed', per: 'for 100 m², once', us: 'for 1,000 ft², once', times: 0.9290304 },
  { k: 'amendment', label: 'Wetting agent, lime, sulfur', per: 'for 100 m², once', us: 'for 1,000 ft², once', times: 0.9290304 },
  { k: 'seed', label: 'Seed', per: 'for 100 m²', us: 'for 1,000 ft²', times: 0.9290304 },
  { k: 'water_m3', label: 'Water', per: 'a cubic metre', us: '1,000 gal', times: 3.785411784 },
  { k: 'lab', label: 'A laboratory sample', per: '', us: '', times: 1 },
]
const calls: Record<string, string> = { act: 'act', check: 'check first', leave: 'leave' }

function Editor({ prices, me, may }: { prices: Schemas['FirmPrices']; me: Schemas['Me']; may: boolean }) {
  const words = useWords()
  const refresh = useRefresh()
  const us = me.unit_system === 'us'
  const times = (f: (typeof fields)[number]) => (us ? f.times : 1)
  const shown = (f: (typeof fields)[number]) => String(Math.round(prices.prices[f.k] * times(f) * 100) / 100)
  const initial = () => Object.fromEntries(fields.map((f) => [f.k, shown(f)])) as Record<keyof Figures, string>
  const [d, setD] = useState(initial)
  // what nobody has changed stays as it is, however it is rounded on the screen
  const read = (f: (typeof fields)[number]) => (d[f.k] === shown(f) ? prices.prices[f.k] : (readNumber(d[f.k]) ?? NaN) / times(f))
  const figures = Object.fromEntries(fields.map((f) => [f.k, read(f)])) as unknown as Figures
  const whole = fields.every((f) => Number.isFinite(figures[f.k]))
  const changed = fields.some((f) => figures[f.k] !== prices.prices[f.k])
  const [asked, setAsked] = useState(figures)
  const text = JSON.stringify(figures)
  useEffect(() => {
    const later = setTimeout(() => {
      if (whole) setAsked(JSON.parse(text) as Figures)
    }, 350)
    return () => clearTimeout(later)
  }, [text, whole])
  const preview = useQuery({
    queryKey: ['prices-preview', asked, prices.version],
    queryFn: () => got(api.POST('/prices/preview', { body: asked })),
    placeholderData: keepPreviousData,
    enabled: changed,
    retry: false,
  })
  const save = useMutation({
    mutationFn: () => got(api.PUT('/prices', { body: { prices: figures, version: prices.version } })),
    onSuccess: refresh,
  })
  return (
    <form
      className="form prices"
      aria-label="What acting costs"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <div>
        <p>
          <Link className="back" to="/firm">
            The firm
          </Link>
        </p>
        <h1>What acting costs</h1>
        <p className="faint">
          These prices set the marks on the scales: from which chance a treatment pays, and between which chances a check pays first.{' '}
          {prices.version === 0 && "Not set yet: these are the program's own guesses."}
        </p>
        <div className="fields">
          {fields.map(({ k, label, per, us: customary }) => (
            <label key={k} className="field">
              <span>
                {label}{' '}
                <small className="faint">
                  {me.currency}
                  {(us ? customary : per) && `, ${us ? customary : per}`}
                </small>
              </span>
              <input
                className="plain-date"
                inputMode="decimal"
                disabled={!may}
                aria-label={label}
                value={d[k]}
                onChange={(e) => setD({ ...d, [k]: e.target.value })}
              />
            </label>
          ))}
        </div>
        {save.isError && <Problem error={save.error} />}
        {preview.isError && changed && <Problem error={preview.error} />}
        {may && (
          <p className="buttons">
            <Button type="primary" htmlType="submit" disabled={!changed || !whole} loading={save.isPending}>
              Save the figures
            </Button>
            {changed && <Button onClick={() => setD(initial())}>Put back</Button>}
          </p>
        )}
      </div>
      {!changed && <p className="faint price-hint">Change a price to preview its effect on past cases. Nothing is saved yet.</p>}
      {changed && JSON.stringify(asked) !== text && <p className="faint price-hint">Working it out…</p>}
      {changed && JSON.stringify(asked) === text && preview.data && !preview.isPlaceholderData && words && (
        <section className="price-effects" aria-label="What this would change" aria-live="polite">
          <h3>In the {preview.data.cases} diagnoses given so far</h3>
          {preview.data.calls.length === 0 && <p>No past decision would change.</p>}
          {preview.data.calls.length > 0 && (
            <table>
              <thead>
                <tr>
                  <th scope="col">Case</th>
                  <th scope="col">Cause</th>
                  <th scope="col">Call</th>
                </tr>
              </thead>
              <tbody>
                {preview.data.calls.slice(0, 8).map((c) => (
                  <tr key={c.visit_id + c.cause + c.zone_name}>
                    <th scope="row">
                      <Link to={`/visits/${c.visit_id}`}>{c.site_name}</Link>
                      <span className="faint">
                        {c.zone_name}, {showDate(c.given_on, me.date_form)}
                      </span>
                    </th>
                    <td>
                      <FamilyMark family={words.cause.get(c.cause)?.family ?? ''} /> {words.cause.get(c.cause)?.label}{' '}
                      <b className="num">{percent(c.probability)} %</b>
                    </td>
                    <td>
                      {calls[c.before]} → <b>{calls[c.after]}</b>
                      <span className="faint">{c.remedy}</span>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {preview.data.calls.length > 8 && <p className="faint">and {preview.data.calls.length - 8} more</p>}
          <h3>Marks that move</h3>
          {preview.data.moved.length === 0 ? (
            <p>No threshold moves by more than 0.5 %.</p>
          ) : (
            <table>
              <thead>
                <tr>
                  <th scope="col">Remedy for</th>
                  <th scope="col" className="num">
                    pays from
                  </th>
                  <th scope="col" className="num">
                    now from
                  </th>
                </tr>
              </thead>
              <tbody>
                {preview.data.moved.slice(0, 8).map((m) => (
                  <tr key={m.cause}>
                    <th scope="row">
                      {words.cause.get(m.cause)?.label}
                      <span className="faint">{m.remedy}</span>
                    </th>
                    <td className="num">{percent(m.before)} %</td>
                    <td className="num">
                      <b>{percent(m.after)} %</b>
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      )}
    </form>
  )
}

/** The figures that a firm knows, and what others would have changed. */
export default function Prices() {
  const me = useMe().data
  const prices = useQuery({ queryKey: ['prices'], queryFn: () => got(api.GET('/prices')) })
  if (prices.isLoadingError) return <Problem error={prices.error} />
  if (!prices.data || !me) return <Busy what="the prices" />
  return <Editor key={prices.data.version} prices={prices.data} me={me} may={me.rights.includes('keep-firm')} />
}
