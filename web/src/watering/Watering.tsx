import { useState } from 'react'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { queryClient } from '../api/queries'
import { fromSI, reader, showDate, unitFor } from '../format'
import { Problem } from '../Shell'
import { Calendar } from './Calendar'
import { AuditPlan, Cans } from './Cans'
import type { Place } from './place'
import { policies } from './words'

const week = [
  ['mon', 'Mo'],
  ['tue', 'Tu'],
  ['wed', 'We'],
  ['thu', 'Th'],
  ['fri', 'Fr'],
  ['sat', 'Sa'],
  ['sun', 'Su'],
] as const
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
