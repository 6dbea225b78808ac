import { useEffect, useMemo, useRef, useState } from 'react'
import { Button, Input } from 'antd'
import { Link, useNavigate, useParams, useSearchParams } from 'react-router'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, got, Refused, type Schemas } from '../api/client'
import { useBench, useMe } from '../api/queries'
import { figure, fromSI, showDate, unitFor, unitsLike, type UnitSystem } from '../format'
import { Busy, Problem } from '../Shell'
import { useSettled } from '../ui/useSettled'
import { asked, chosen, entriesOf, fromAddress, toAddress, type Sheet } from './entries'
import './bench.css'

type Calculation = Schemas['BenchCalculation']
type Field = Schemas['BenchField']

/** Words of a field that are no unit of the table. */
const bare: Record<string, string> = { d: 'days', h: 'hours', 'h/d': 'hours a day', meq: 'meq/100 g', 'g/cm3': 'g/cm³' }

function One({
  field: f,
  sheet,
  sys,
  currency,
  wrong,
  onChange,
}: {
  field: Field
  sheet: Sheet
  sys: UnitSystem
  currency: string
  wrong: string | undefined
  onChange: (text: string, unit: string) => void
}) {
  const typed = sheet[f.id]
  if (f.choices)
    return (
      <label className="field">
        <span>{f.label}</span>
        <select aria-label={f.label} value={chosen(f, sheet)} onChange={(e) => onChange(e.target.value, '')}>
          {f.choices.map((c) => (
            <option key={c.id} value={c.id}>
              {c.label}
            </option>
          ))}
        </select>
      </label>
    )
  const units = unitsLike(f.unit, sys)
  const unit = typed?.unit || (unitFor(f.unit, sys)?.id ?? '')
  const usual = f.usual === undefined ? '' : String(Math.round(fromSI(f.usual, f.unit, sys) * 1000) / 1000)
  const limits = `${figure(f.low, f.unit, sys)} to ${figure(f.high, f.unit, sys)}`
  return (
    <label className="field" data-wrong={wrong !== undefined}>
      <span>
        {f.label} {f.optional && <small className="faint">may be left out</small>}
      </span>
      <span className="amount">
        <Input
          aria-label={f.label}
          aria-invalid={wrong !== undefined}
          inputMode="decimal"
          placeholder={usual}
          title={units.length ? limits : undefined}
          value={typed?.text ?? ''}
          onChange={(e) => onChange(e.target.value, unit)}
        />
        {units.length > 1 ? (
          <select aria-label={`Unit of ${f.label}`} value={unit} onChange={(e) => onChange(typed?.text ?? '', e.target.value)}>
            {units.map((u) => (
              <option key={u.id} value={u.id}>
                {u.label}
              </option>
            ))}
          </select>
        ) : (
          <span className="amount-unit">{f.unit === 'money' ? currency : (bare[f.unit] ?? units[0]?.label ?? f.unit)}</span>
        )}
      </span>
      {wrong !== undefined && <small className="caution">{wrong}</small>}
    </label>
  )
}

/** The answer: what was asked for large, the rest under it, then the working as one would write it down. */
function Answer({ result }: { result: Schemas['BenchResult'] }) {
  return (
    <>
      <dl className="bench-lines">
        {result.lines.map((l) => (
          <div key={l.id} data-line={l.id} data-lead={l.lead}>
            <dt>{l.label}</dt>
            <dd className="num">
              {l.text}
              {l.span && <small className="faint">{l.span}</small>}
            </dd>
          </div>
        ))}
      </dl>
      {result.warnings.map((w) => (
        <p key={w.limit} className="caution" data-limit={w.limit}>
          {w.text.charAt(0).toUpperCase() + w.text.slice(1)}.
        </p>
      ))}
      {result.tables.map((t) => (
        <table key={t.label} className="bench-table">
          <caption>{t.label}</caption>
          <thead>
            <tr>
              {t.head.map((h) => (
                <th key={h} scope="col">
                  {h}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {t.rows.map((row, i) => (
              <tr key={i}>
                {(row ?? []).map((cell, j) => (
                  <td key={j} className="num">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      ))}
      {result.working.length > 0 && (
        <div className="bench-working">
          <h3>Working</h3>
          {result.working.map((w) => (
            <p key={w} className="num">
              {w}
            </p>
          ))}
        </div>
      )}
    </>
  )
}

function Calculate({ c, me }: { c: Calculation; me: Schemas['Me'] }) {
  const [search, setSearch] = useSearchParams()
  const [sheet, setSheet] = useState<Sheet>(() => fromAddress(search))
  const sys = me.unit_system
  const settled = useSettled(sheet, 250)
  const first = useRef<HTMLFormElement>(null)
  useEffect(() => {
    first.current?.querySelector<HTMLElement>('input')?.focus({ preventScroll: true })
  }, [])
  useEffect(() => {
    setSearch(toAddress(settled), { replace: true })
  }, [settled, setSearch])
  const { entries, missing, wrong } = entriesOf(c.fields, settled, sys)
  const ready = missing.length === 0 && wrong.length === 0
  const result = useQuery({
    queryKey: ['bench', c.id, entries, sys],
    queryFn: () => got(api.POST('/bench/{id}', { params: { path: { id: c.id } }, body: { entries } })),
    enabled: ready,
    retry: false,
    placeholderData: keepPreviousData,
  })
  const said = (id: string): string | undefined => {
    if (wrong.includes(id)) return 'is not a number'
    if (!(result.error instanceof Refused)) return undefined
    return result.error.fields.find((f) => f.field.endsWith(`.${id}`))?.reason
  }
  const names = missing.map((id) => c.fields.find((f) => f.id === id)?.label.toLowerCase() ?? id)
  return (
    <div className="bench-work">
      <header>
        <h1>{c.label}</h1>
        <p className="faint">{c.says}</p>
      </header>
      <form ref={first} className="bench-form" aria-label={c.label} onSubmit={(e) => e.preventDefault()}>
        <div className="fields">
          {asked(c.fields, sheet).map((f) => (
            <One
              key={f.id}
              field={f}
              sheet={sheet}
              sys={sys}
              currency={me.currency}
              wrong={said(f.id)}
              onChange={(text, unit) => setSheet((x) => ({ ...x, [f.id]: { text, unit } }))}
            />
          ))}
        </div>
        <p className="buttons no-print">
          <Button onClick={() => setSheet({})}>Clear</Button>
          <Button onClick={() => window.print()}>Print</Button>
        </p>
        <p className="faint bench-source">From: {c.source}.</p>
      </form>
      <section className="bench-answer" aria-label="Answer" aria-live="polite" aria-busy={result.isFetching}>
        {!ready && names.length > 0 && <p className="faint">Still needed: {names.join(', ')}.</p>}
        {ready && result.isError && !(result.error instanceof Refused && result.error.fields.length) && <Problem error={result.error} />}
        {ready && result.data && !result.isError && <Answer result={result.data} />}
        <p className="bench-foot print-only">
          {me.firm}, {me.name}, {showDate(me.today, me.date_form)}. The product label and local rules come first.
        </p>
      </section>
    </div>
  )
}

/** Every calculation without a visit. A letter typed in the list finds; Enter opens the first that fits. */
export default function Bench() {
  const { calculation = '' } = useParams()
  const me = useMe().data
  const bench = useBench()
  const navigate = useNavigate()
  const [find, setFind] = useState('')
  const box = useRef<HTMLElement>(null)
  const fits = useMemo(() => {
    const words = find.toLowerCase().split(/\s+/).filter(Boolean)
    return (bench.data ?? []).filter((c) => words.every((w) => `${c.group} ${c.label} ${c.says}`.toLowerCase().includes(w)))
  }, [bench.data, find])
  useEffect(() => {
    const toList = (e: KeyboardEvent) => {
      if (e.key !== '/' || (e.target instanceof HTMLElement && /INPUT|SELECT|TEXTAREA/.test(e.target.tagName))) return
      e.preventDefault()
      box.current?.querySelector('input')?.focus()
    }
    window.addEventListener('keydown', toList)
    return () => window.removeEventListener('keydown', toList)
  }, [])
  if (bench.isLoadingError) return <Problem error={bench.error} />
  if (!bench.data || !me) return <Busy what="the bench" />
  const c = bench.data.find((x) => x.id === calculation)
  const groups = [...new Set(fits.map((x) => x.group))]
  return (
    <div className="bench" data-open={c !== undefined}>
      <nav className="bench-list no-print" aria-label="Calculations" ref={box}>
        <label className="field">
          <span>
            Find <kbd>/</kbd>
          </span>
          <Input
            type="search"
            aria-label="Find a calculation"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            onKeyDown={(e) => {
              if (e.key === 'Enter' && fits[0]) void navigate(`/bench/${fits[0].id}`)
            }}
          />
        </label>
        {fits.length === 0 && <p className="faint">Nothing is called that.</p>}
        {groups.map((g) => (
          <section key={g} aria-label={g}>
            <h2>{g}</h2>
            <ul>
              {fits
                .filter((x) => x.group === g)
                .map((x) => (
                  <li key={x.id}>
                    <Link to={`/bench/${x.id}`} aria-current={x.id === c?.id ? 'page' : undefined}>
                      {x.label}
                    </Link>
                  </li>
                ))}
            </ul>
          </section>
        ))}
      </nav>
      <main>
        {c ? (
          <>
            <Link className="bench-back export no-print" to="/bench">
              All calculations
            </Link>
            <Calculate key={c.id} c={c} me={me} />
          </>
        ) : (
          <div className="bench-none">
            <h1>Bench</h1>
            <p className="faint">Work out an amount without a visit. What you enter stays in the address, so a sum can be kept or sent.</p>
            <Link className="export" to="/train">
              Train your eye for shares
            </Link>
          </div>
        )}
      </main>
    </div>
  )
}
