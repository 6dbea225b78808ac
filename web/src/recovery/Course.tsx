import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { daysBetween, showDate } from '../format'

const heldSaid: Record<string, string> = { cold: 'cold holds it back', heat: 'heat holds it back', dry: 'drought holds it back' }

/** The spells in which something held growth under half of its best: by the days of the course. */
export function held(days: Pick<Schemas['ExpectedDay'], 'limit'>[]): { from: number; to: number; limit: string }[] {
  const out: { from: number; to: number; limit: string }[] = []
  days.forEach((d, i) => {
    const last = out.at(-1)
    if (i === 0 || d.limit === '') return
    if (last?.limit === d.limit && last.to === i - 1) last.to = i
    else out.push({ from: i - 1, to: i, limit: d.limit })
  })
  return out
}

const W = 760
const H = 330
const pad = { left: 58, right: 22, top: 16, bottom: 40 }

/** The expected band and the measured points, drawn for reading off: every look carries its value. */
export function Course({ r, today, form }: { r: Schemas['Recovery']; today: string; form: Schemas['Me']['date_form'] }) {
  const start = r.started_on ?? today
  const last = Math.max(42, daysBetween(start, today) + 21, r.green_on ? daysBetween(start, r.green_on) + 7 : 0)
  const span = Math.min(last, r.expected.length - 1)
  const x = (d: number) => pad.left + (d / span) * (W - pad.left - pad.right)
  const y = (c: number) => pad.top + (1 - c) * (H - pad.top - pad.bottom)
  const shown = r.expected.slice(0, span + 1)
  const line = (pick: (e: Schemas['ExpectedDay']) => number) =>
    shown.map((e, i) => `${i ? 'L' : 'M'}${x(i).toFixed(1)} ${y(pick(e)).toFixed(1)}`).join('')
  const band = `${line((e) => e.high)}${[...shown]
    .map((e, i) => ({ e, i }))
    .reverse()
    .map(({ e, i }) => `L${x(i).toFixed(1)} ${y(e.low).toFixed(1)}`)
    .join('')}Z`
  const measures = r.measures
    .map((l) => ({ ...l, day: daysBetween(start, l.measured_on ?? start) }))
    .filter((l) => l.day >= 0 && l.day <= span)
  const weeks = Array.from({ length: Math.floor(span / 7) + 1 }, (_, i) => i * 7).filter((d) => d % (span > 80 ? 14 : 7) === 0)
  const now = daysBetween(start, today)
  return (
    <svg
      className="course"
      viewBox={`0 0 ${W} ${H}`}
      role="img"
      aria-label={`Green cover from ${showDate(start, form)}: ${measures.map((l) => `${Math.round(l.cover * 100)} per cent on day ${l.day}`).join(', ')}. ${r.reason}`}
    >
      {[0, 0.25, 0.5, 0.75, 1].map((c) => (
        <g key={c}>
          <line className="grid" x1={pad.left} x2={W - pad.right} y1={y(c)} y2={y(c)} />
          <text className="tick" x={pad.left - 8} y={y(c) + 5} textAnchor="end">
            {c * 100}
            {c === 1 ? ' %' : ''}
          </text>
        </g>
      ))}
      {weeks.map((d) => (
        <g key={d}>
          <line className="grid" x1={x(d)} x2={x(d)} y1={H - pad.bottom} y2={H - pad.bottom + 5} />
          <text className="tick" x={x(d)} y={H - pad.bottom + 22} textAnchor="middle">
            {d === 0 ? showDate(start, 'dmy').replace(/ \d{4}$/, '') : `+${d} d`}
          </text>
        </g>
      ))}
      {held(shown).map((h) => (
        <g key={h.from}>
          <rect
            className="held"
            data-limit={h.limit}
            x={x(h.from)}
            width={Math.max(2, x(h.to) - x(h.from))}
            y={H - pad.bottom - 9}
            height="9"
          />
          {x(h.to) - x(h.from) > 90 && (
            <text className="tick" x={(x(h.from) + x(h.to)) / 2} y={H - pad.bottom - 14} textAnchor="middle">
              {heldSaid[h.limit]}
            </text>
          )}
        </g>
      ))}
      <path className="band" d={band} />
      <path className="mid" d={line((e) => e.mid)} />
      <line className="target" x1={pad.left} x2={W - pad.right} y1={y(r.target)} y2={y(r.target)} />
      <text className="target-label" x={pad.left + 6} y={y(r.target) - 6}>
        target {Math.round(r.target * 100)} %
      </text>
      {now >= 0 && now <= span && (
        <>
          <line className="today" x1={x(now)} x2={x(now)} y1={pad.top} y2={H - pad.bottom} />
          <text className="tick" x={x(now) - 5} y={H - pad.bottom - 8} textAnchor="end">
            today
          </text>
        </>
      )}
      <path className="measured" d={measures.map((l, i) => `${i ? 'L' : 'M'}${x(l.day)} ${y(l.cover)}`).join('')} />
      {measures.map((l) => (
        <g key={l.id}>
          {l.baseline ? (
            <rect className="measure-point" x={x(l.day) - 6} y={y(l.cover) - 6} width="12" height="12" />
          ) : (
            <circle className="measure-point" cx={x(l.day)} cy={y(l.cover)} r="6.500" />
          )}
          <text
            className="look-label"
            x={x(l.day) + (l.day === 0 ? 4 : 0)}
            y={y(l.cover) + 26}
            textAnchor={l.day === 0 ? 'start' : 'middle'}
          >
            {Math.round(l.cover * 100)}
          </text>
        </g>
      ))}
    </svg>
  )
}

const verdictWords: Record<string, string> = {
  'not-yet': 'Not measured yet',
  'on-course': 'On course',
  slow: 'Slow',
  'off-course': 'Off course',
  recovered: 'Recovered',
}

/** The verdict with its reason, and what happens next. */
export function VerdictBox({
  r,
  form,
  today,
  again,
}: {
  r: Schemas['Recovery']
  form: Schemas['Me']['date_form']
  today: string
  /** where it is weighed again, on a visit */
  again?: string
}) {
  return (
    <div className="course-verdict" data-verdict={r.verdict} role="status">
      <strong>{verdictWords[r.verdict]}</strong>
      <p>{r.reason}</p>
      {again && r.verdict === 'off-course' && (
        <Link className="press" to={again}>
          Weigh it again
        </Link>
      )}
      <dl>
        {r.green_on && r.verdict !== 'recovered' && (
          <>
            <dt>
              {r.green_on < today ? 'Was expected back' : 'Back'} to {Math.round(r.target * 100)} % about
            </dt>
            <dd className="num">
              {showDate(r.green_on, form)}
              {r.green_early && r.green_early > today && r.green_early !== r.green_on && (
                <small>
                  {' '}
                  {r.green_late
                    ? `between ${showDate(r.green_early, form)} and ${showDate(r.green_late, form)}`
                    : `${showDate(r.green_early, form)} at the earliest`}
                </small>
              )}
            </dd>
          </>
        )}
        {r.follow_up && (
          <>
            <dt>Next follow-up</dt>
            <dd className="num">{showDate(r.follow_up.due_on, form, true)}</dd>
          </>
        )}
        {r.progress && (
          <>
            <dt>Not green on average</dt>
            <dd className="num">
              {Math.round(r.progress.mean)} % over {r.progress.days} days <small>({Math.round(r.progress.percent_days)} % days)</small>
            </dd>
          </>
        )}
        {r.measures.filter((m) => !m.baseline).length > 0 && (
          <>
            <dt>This zone recovers</dt>
            <dd className="num">
              {r.rate.toFixed(1)} × as fast as is usual ({r.rate_low.toFixed(1)} to {r.rate_high.toFixed(1)})
            </dd>
          </>
        )}
      </dl>
    </div>
  )
}
