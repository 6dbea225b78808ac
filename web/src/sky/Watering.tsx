import { useState } from 'react'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, queryClient } from '../api/queries'
import { fromSI, reader, readNumber, showDate, toSI, unitFor, type Reader } from '../format'
import { Problem } from '../Shell'
import type { Place } from './Sky'

const week = [
  ['mon', 'Mo'],
  ['tue', 'Tu'],
  ['wed', 'We'],
  ['thu', 'Th'],
  ['fri', 'Fr'],
  ['sat', 'Sa'],
  ['sun', 'Su'],
] as const
const policies: Record<string, string> = { 'keep-green': 'Keep it green', 'let-rest': 'Let it rest' }
const ramps = ['seed', 'sod', 'plugs'] as const
type Ramp = (typeof ramps)[number]
type Day = (typeof week)[number][0]

/** When and how long to water: today's refill, the days ahead under both policies, the catch-can audit behind it. */
export function Watering({ place, site, me }: { place: Place; site: string; me: Schemas['Me'] }) {
  const { visit, zone } = place
  const [audit, setAudit] = useState(false)
  const [ramp, setRamp] = useState<Ramp | undefined>()
  const query = ramp ? { ramp } : {}
  const plan = useQuery({
    queryKey: ['watering', visit, zone, ramp],
    queryFn: () =>
      visit
        ? got(api.GET('/visits/{id}/zones/{zone}/watering', { params: { path: { id: visit, zone }, query } }))
        : got(api.GET('/zones/{id}/watering', { params: { path: { id: zone }, query } })),
    placeholderData: (old) => old,
  })
  const permit = useMutation({
    mutationFn: (days: Day[]) => got(api.PUT('/sites/{id}/watering-days', { params: { path: { id: site } }, body: { days } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['watering'] }),
  })
  if (plan.isLoadingError) return <Problem error={plan.error} />
  if (!plan.data) return null
  const w = plan.data
  const r = reader(me.unit_system)
  const rate = (x: number) =>
    `${fromSI(x, 'mm/h', me.unit_system).toFixed(me.unit_system === 'us' ? 2 : 1)} ${unitFor('mm/h', me.unit_system)?.label ?? ''}`
  const volume = (x: number) =>
    `${Math.round(fromSI(x, 'L', me.unit_system)).toLocaleString('en')} ${unitFor('L', me.unit_system)?.label ?? ''}`
  const days = permit.isPending ? permit.variables : week.map(([id]) => id).filter((d) => w.permitted.includes(d))
  const step =
    w.new_grass && (!ramp || ramp === w.new_grass.kind)
      ? w.ramp.find((s) => w.new_grass && s.from_day <= w.new_grass.day && w.new_grass.day <= s.to_day)
      : undefined
  return (
    <section className="watering" aria-label="Watering">
      <h2>Watering</h2>
      {w.new_grass && step && (
        <p className="caution">
          {w.new_grass.kind === 'seed' ? 'Seed' : w.new_grass.kind === 'sod' ? 'Sod' : 'Plugs'} of {showDate(w.new_grass.on, me.date_form)},
          day {w.new_grass.day}:{' '}
          <b>
            {often(step)}, {r.depth(step.mm)} {r.water}
          </b>
          ; {step.why}.
        </p>
      )}
      {!w.known ? (
        <p className="notice">
          This lawn is irrigated but the amount is unknown. Enter the weekly amount or log each watering to get run times and dates.
        </p>
      ) : (
        <p>
          {r.depth(w.lack_mm)} of {r.depth(w.total_mm)} {r.water} used
          {w.lack_mm >= w.total_mm / 2
            ? ': water is due'
            : w.half_on
              ? `; half will be used by ${showDate(w.half_on, me.date_form, true)}`
              : '; will not reach half within the forecast'}
          .
        </p>
      )}
      {w.turn ? (
        <p className="turn">
          <b className="num">{w.turn.minutes} min</b>
          {w.turn.cycles > 1 && (
            <>
              , in <b className="num">{w.turn.cycles}</b> cycles of {w.turn.cycle_minutes} with {w.turn.soak_minutes} min to soak
            </>
          )}
          {w.turn.nights > 1 && (
            <>
              , over <b className="num">{w.turn.nights}</b> nights
            </>
          )}
          , from <b className="num">{w.turn.start}</b> to {w.turn.end}: {r.depth(w.turn.gross_mm)} {r.water},{' '}
          <span className="num">
            {volume(w.turn.litres)}, {w.turn.cost.toFixed(2)} {me.currency}
          </span>
          {w.syringe_minutes > 0 && <span className="faint">. To cool the leaves: {w.syringe_minutes} min</span>}
        </p>
      ) : (
        w.known && <p className="faint">Run a catch-can test to get run times.</p>
      )}
      <p className="faint">
        {w.rate_mm_h > 0
          ? `Sprinklers ${rate(w.rate_mm_h)}, uniformity ${w.uniformity.toFixed(2)}${w.uniformity < 0.6 ? ' (suspect)' : ''}${w.audited_on ? `, cans of ${showDate(w.audited_on, me.date_form)}` : ''}`
          : 'Never measured'}
        ; the ground takes in {rate(w.intake_mm_h)}.
      </p>
      {w.audit && !audit && <AuditPlan audit={w.audit} r={r} />}
      {visit && me.rights.includes('answer-checks') && (
        <button type="button" className="plain-button" aria-expanded={audit} onClick={() => setAudit(!audit)}>
          {w.audit ? 'New catch cans' : 'Catch cans'}
        </button>
      )}
      {audit && visit && <Cans visit={visit} zone={zone} me={me} onDone={() => setAudit(false)} />}
      <div className="weekdays" role="group" aria-label="Permitted days">
        <span className="faint">Allowed watering days{days.length === 0 && ': all'}</span>
        {week.map(([id, label]) => (
          <button
            key={id}
            type="button"
            disabled={permit.isPending}
            aria-pressed={days.includes(id)}
            onClick={() => permit.mutate(days.includes(id) ? days.filter((d) => d !== id) : [...days, id])}
          >
            {label}
          </button>
        ))}
      </div>
      {permit.isError && <Problem error={permit.error} />}
      {w.ahead.length > 0 && w.policies.length > 0 && <Calendar w={w} me={me} />}
      <div className="policies">
        {w.policies.map((p) => (
          <div key={p.name}>
            <h3>{policies[p.name]}</h3>
            <p className="num">
              <b>{volume(p.litres)}</b>, {p.cost.toFixed(2)} {me.currency}
            </p>
            <p className="faint">{p.outlook}</p>
          </div>
        ))}
      </div>
      <details open={step !== undefined}>
        <summary>Watering new seed, sod or plugs</summary>
        <select
          className="plain"
          aria-label="What is new"
          value={ramp ?? w.new_grass?.kind ?? 'seed'}
          onChange={(e) => setRamp(e.target.value as Ramp)}
        >
          {ramps.map((r) => (
            <option key={r} value={r}>
              {r}
            </option>
          ))}
        </select>
        <ul>
          {w.ramp.map((s) => (
            <li key={s.from_day} aria-current={s === step ? 'step' : undefined}>
              Day {s.from_day} to {s.to_day}:{' '}
              <b>
                {often(s)}, {r.depth(s.mm)} {r.water}
              </b>{' '}
              <span className="faint">{s.why}</span>
            </li>
          ))}
        </ul>
      </details>
    </section>
  )
}

const often = (s: Schemas['RampStep']) =>
  s.times_a_day >= 1 ? `${s.times_a_day} times a day` : `every ${Math.round(1 / s.times_a_day)} days`

/** The days ahead, a column each: rain, what would be left without watering, and what each policy gives. */
function Calendar({ w, me }: { w: Schemas['Watering']; me: Schemas['Me'] }) {
  const r = reader(me.unit_system)
  const short = (iso: string) => showDate(iso, 'dmy', true).split(' ')
  const due = (name: string, date: string) => w.policies.find((p) => p.name === name)?.due.find((d) => d.date === date)
  const why = w.policies.flatMap((p) => p.due.map((d) => ({ ...d, policy: policies[p.name] ?? p.name })))
  return (
    <div className="calendar">
      <table>
        <caption className="unseen">Watering in the days ahead, in {r.water}</caption>
        <thead>
          <tr>
            <th scope="col">
              <span className="faint">{r.water}</span>
            </th>
            {w.ahead.map((d) => (
              <th key={d.date} scope="col" data-permitted={d.permitted}>
                <span className="faint">{short(d.date)[0]?.slice(0, 2)}</span>
                <b className="num">{short(d.date)[1]}</b>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">rain</th>
            {w.ahead.map((d) => (
              <td key={d.date} className="num" data-rain={(d.rain_mm ?? 0) >= 1}>
                {d.rain_mm == null ? '–' : d.rain_mm >= 0.5 ? r.tight(d.rain_mm) : ''}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">left</th>
            {w.ahead.map((d) => (
              <td key={d.date} className="num" data-short={d.left_mm != null && d.left_mm <= w.total_mm / 2}>
                {d.left_mm == null ? '–' : r.tight(d.left_mm)}
              </td>
            ))}
          </tr>
          {w.policies.map((p) => (
            <tr key={p.name} data-policy={p.name}>
              <th scope="row">{p.name === 'keep-green' ? 'green' : 'rest'}</th>
              {w.ahead.map((d) => {
                const x = due(p.name, d.date)
                return (
                  <td key={d.date} className="num" data-due={x !== undefined} data-permitted={d.permitted}>
                    {x ? r.tight(x.mm) : d.permitted ? '' : '×'}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {why.length === 0 ? (
        <p className="faint">Nothing is due in the days ahead.</p>
      ) : (
        <ul>
          {why.map((d) => (
            <li key={d.policy + d.date}>
              <b>{showDate(d.date, me.date_form, true)}</b> {d.policy.toLowerCase()}:{' '}
              <span className="num">
                {r.depth(d.mm)} {r.water}
              </span>
              <span className="faint">, {d.why}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

/** The last audit over the plan: what each can held, the low quarter underlined, the damage shaded. */
function AuditPlan({ audit, r }: { audit: Schemas['AuditOnPlan']; r: Reader }) {
  const at = new Map(audit.cans.map((c, i) => [c.y * 12 + c.x, { mm: c.mm, low: audit.low.includes(i) }]))
  const damaged = new Set(audit.damaged)
  const lowOn = [...at].filter(([cell, c]) => c.low && damaged.has(cell)).length
  const words = `${audit.cans.length} cans over ${audit.minutes} min; ${audit.low.length} in the low quarter${damaged.size ? `, ${lowOn} of them on the damage` : ''}`
  return (
    <figure className="audit-plan">
      <div className="can-grid" role="img" aria-label={words}>
        {Array.from({ length: 96 }, (_, cell) => {
          const c = at.get(cell)
          return (
            <span key={cell} data-low={c?.low} data-has={c !== undefined} data-damaged={damaged.has(cell)}>
              {c && r.tight(c.mm, c.mm < 10)}
            </span>
          )
        })}
      </div>
      <figcaption className="faint">
        {words}. Depths ({r.water}); low cans underlined, damage hatched.
      </figcaption>
    </figure>
  )
}

/** Cans on the plan of twelve by eight: press a cell, type the depth. */
function Cans({ visit, zone, me, onDone }: { visit: string; zone: string; me: Schemas['Me']; onDone: () => void }) {
  const unit = reader(me.unit_system).water
  const [depths, setDepths] = useState<Map<number, string>>(new Map())
  const [minutes, setMinutes] = useState('15')
  const [cell, setCell] = useState<number | undefined>()
  const rows = [...depths].flatMap(([at, text]) => {
    const depth = readNumber(text)
    return depth === undefined
      ? []
      : [{ x: at % 12, y: Math.floor(at / 12), mm: Math.round(toSI(depth, 'mm', me.unit_system) * 100) / 100 }]
  })
  const save = useMutation({
    mutationFn: () =>
      got(
        api.POST('/visits/{id}/audits', {
          params: { path: { id: visit } },
          body: { id: newId(), zone_id: zone, minutes: readNumber(minutes) ?? 0, cans: rows },
        }),
      ),
    onSuccess: () => Promise.all(['watering', 'sky', 'scales'].map((k) => queryClient.invalidateQueries({ queryKey: [k, visit, zone] }))),
  })
  const low = new Set(
    save.data?.low.map((i) => {
      const r = rows[i]
      return r ? r.y * 12 + r.x : -1
    }),
  )
  return (
    <form
      className="cans"
      aria-label="Catch cans"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <p className="faint">Press where a can stood and type its depth in {unit}; four at least, twenty are better.</p>
      <div className="can-grid">
        {Array.from({ length: 96 }, (_, at) => (
          <button
            key={at}
            type="button"
            aria-label={`Can at column ${(at % 12) + 1}, row ${Math.floor(at / 12) + 1}`}
            aria-pressed={cell === at}
            data-low={low.has(at)}
            data-has={depths.has(at)}
            onClick={() => setCell(at)}
          >
            {depths.get(at) ?? ''}
          </button>
        ))}
      </div>
      {cell !== undefined && (
        <label className="field">
          <span>Depth in this can, {unit}</span>
          <input
            key={cell}
            className="plain-date"
            autoFocus
            inputMode="decimal"
            aria-label="Depth in this can"
            value={depths.get(cell) ?? ''}
            onChange={(e) => {
              const next = new Map(depths)
              if (e.target.value) next.set(cell, e.target.value)
              else next.delete(cell)
              setDepths(next)
            }}
          />
        </label>
      )}
      <label className="field">
        <span>Minutes they stood</span>
        <input
          className="plain-date"
          inputMode="decimal"
          aria-label="Minutes they stood"
          value={minutes}
          onChange={(e) => setMinutes(e.target.value)}
        />
      </label>
      {save.isError && <Problem error={save.error} />}
      {save.data && (
        <p className="notice" role="status">
          <b className="num">
            {fromSI(save.data.rate_mm_h, 'mm/h', me.unit_system).toFixed(me.unit_system === 'us' ? 2 : 1)}{' '}
            {unitFor('mm/h', me.unit_system)?.label}, uniformity {save.data.uniformity.toFixed(2)}
          </b>{' '}
          ({save.data.from.toFixed(2)} to {save.data.to.toFixed(2)}): {save.data.verdict}.
        </p>
      )}
      <p className="buttons">
        <button type="submit" className="plain-button" disabled={rows.length < 4 || save.isPending}>
          Work it out ({rows.length})
        </button>
        <button type="button" className="plain-button" onClick={onDone}>
          Close
        </button>
      </p>
    </form>
  )
}
