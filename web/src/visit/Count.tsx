import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { api, got, type Schemas } from '../api/client'
import { useProtocols } from '../api/queries'
import { countHere } from '../core/core'
import { daysBetween, fromSI, percent, showDate, type DateForm, unitFor, type UnitSystem } from '../format'
import { Countdown, Stopwatch } from './Watch'
import { useKept } from './useKept'

export type Tally = Schemas['Tally']
type Place = Schemas['CountPlace']

/** What a count is held against here, and who asks. */
export interface Held {
  limit: Schemas['CountLimit'] | undefined
  units: UnitSystem
  dates: DateForm
  today: string
}

const depths = [10, 20, 30] // mm, where a drop is set

function asTally(x: unknown): Tally | undefined {
  const t = x as Tally | null
  return t && Array.isArray(t.places) && t.places.every((p) => Number.isFinite(p.got) && Number.isFinite(p.of)) ? t : undefined
}

/** What a count comes to before the core has said it: shown as a first figure, replaced by the core's. */
function soFar(kind: string, places: Place[]): number {
  const got = places.reduce((s, p) => s + p.got, 0)
  const of = places.reduce((s, p) => s + p.of, 0)
  if (kind === 'drop') return Math.max(0, ...places.map((p) => p.got))
  return kind === 'share' ? Math.round((got / of) * 100) : Math.round((got / of) * 1e5) / 10
}

/** How figures of a count are said: the number, no finer than it is known, and its unit. */
function saying(kind: Schemas['Protocol']['kind'], units: UnitSystem): { number: (x: number) => string; unit: string } {
  if (kind !== 'pieces') return { number: (x) => String(x), unit: kind === 'share' ? '%' : 's' }
  return {
    number: (perM2) => {
      const x = fromSI(perM2, '1/m2', units)
      return String(x < 10 ? Math.round(x * 10) / 10 : Math.round(x))
    },
    unit: unitFor('1/m2', units)?.label ?? 'per m²',
  }
}

const standing = { sound: 'a sound stand bears that many', usual: 'on a stand like most', stressed: 'the stand is under stress' }

/** How sure a count is, and whether to go on, in words. */
function Says({ p, tally, held }: { p: Schemas['Protocol']; tally: Tally; held: Held }) {
  const { limit, units } = held
  const places = tally.places
  const per = limit?.per_m2
  const w = useQuery({
    queryKey: ['count', p.finding, per, places],
    queryFn: () =>
      countHere(p.finding, tally, per ?? 0).catch(() =>
        got(
          api.POST('/counts/{finding}', {
            params: { path: { finding: p.finding } },
            body: { places, ...(per === undefined ? {} : { limit: per }) },
          }),
        ),
      ),
    placeholderData: (before) => before,
    retry: false,
  }).data
  const { number, unit } = saying(p.kind, units)
  const value = w?.value ?? soFar(p.kind, places)
  return (
    <div className="count-says" role="status" data-state={w?.state ?? ''}>
      <p>
        <b className="num">
          {number(value)} {unit}
        </b>
        {w?.low !== undefined && w.high !== undefined && (
          <span className="faint">
            {' '}
            likely {number(w.low)} to {number(w.high)}
          </span>
        )}
      </p>
      {per !== undefined && limit && (
        <p>
          Damaging here from {number(per)} {unit}: {standing[limit.stand]}.
        </p>
      )}
      {w && <p className="count-state">{verdict(w, p)}</p>}
      {limit && value > 0 && <Feeding limit={limit} held={held} />}
    </div>
  )
}

function verdict(w: Schemas['Weighed'], p: Schemas['Protocol']): string {
  const sure = percent(w.over ?? 0)
  const one = p.kind === 'share' ? 'Cut more crowns' : p.seconds > 0 ? 'Try one more place' : 'Cut one more square'
  switch (w.state) {
    case 'over':
      return `${sure} % sure that it is at the damaging count or over. Enough is counted.`
    case 'under':
      return `${percent(1 - (w.over ?? 0))} % sure that it is under the damaging count. Enough is counted.`
    case 'on-line':
      return `It lies on the line: ${sure} % likely over. More places are not worth their time.`
    case 'more':
      return w.turns === undefined ? `${one}.` : `${one}: in ${percent(w.turns)} of 100 cases it turns the decision.`
    case 'begun':
      return p.kind === 'share' ? 'At least ten crowns, please.' : 'One place says little: at least one more.'
    case 'alive':
      return `${sure} % sure: alive. Enough is cut.`
    case 'mixed':
      return `${sure} % sure: some alive, some dead. Enough is cut.`
    case 'dead':
      return `${sure} % sure: dead. Enough is cut.`
    default:
      return w.settled ? 'Enough is measured.' : `${p.places} places are usual.`
  }
}

function Feeding({ limit, held }: { limit: Schemas['CountLimit']; held: Held }) {
  if (!limit.feeds) return null
  if (!limit.feeds_until) return <p>They go on feeding.</p>
  const weeks = Math.round(daysBetween(held.today, limit.feeds_until) / 7)
  return (
    <p>
      They feed until about {showDate(limit.feeds_until, held.dates)}:{' '}
      {weeks < 1 ? 'less than a week' : weeks === 1 ? '1 week' : `${weeks} weeks`} left.
    </p>
  )
}

/** One thing that is counted by pressing. */
function Press({ label, n, disabled, onChange }: { label: string; n: number; disabled: boolean; onChange: (n: number) => void }) {
  return (
    <div className="count-press">
      <button type="button" disabled={disabled || n === 0} aria-label={`One less ${label}`} onClick={() => onChange(n - 1)}>
        −
      </button>
      <button type="button" className="count-more" disabled={disabled} aria-label={`One more ${label}`} onClick={() => onChange(n + 1)}>
        <b className="num">{n}</b>
        <small>{label} · press for one more</small>
      </button>
    </div>
  )
}

interface Props {
  finding: string
  /** where a count that is not yet saved is kept on the device */
  keep: string
  tally: Tally | undefined
  disabled: boolean
  held: Held
  /** whether the count is open, so that what is beside it makes room */
  onOpen: (open: boolean) => void
  onTally: (tally: Tally, value: number) => void
}

/** A count, guided: place by place with the tool at hand, until enough is counted. */
export function Count({ finding, keep, tally, disabled, held, onOpen, onTally }: Props) {
  const all = useProtocols().data
  const p = all?.protocols.find((x) => x.finding === finding)
  const [draft, setDraft] = useKept(`hodos-count-${keep}`, asTally)
  const [pressed, setPressed] = useState<boolean>()
  const now = draft ?? tally
  const open = p !== undefined && (pressed ?? now !== undefined)
  useEffect(() => onOpen(open), [open, onOpen])
  if (!p) return null
  if (!open)
    return (
      <button type="button" className="count-open" disabled={disabled} data-count-open onClick={() => setPressed(true)}>
        {p.kind === 'drop' ? 'Time it' : p.kind === 'share' ? 'Count crowns' : 'Count it in places'}
      </button>
    )
  const tools = all?.tools.filter((t) => p.tools.includes(t.id)) ?? []
  const body = { p, tools, now, disabled, keep, setDraft, save: (t: Tally) => (setDraft(undefined), onTally(t, soFar(p.kind, t.places))) }
  return (
    <div className="count" data-count={finding}>
      {!now && <p className="faint">{p.where}</p>}
      {p.seconds > 0 && <Countdown keep={keep} seconds={p.seconds} />}
      {p.kind === 'pieces' && <Pieces {...body} />}
      {p.kind === 'share' && <Crowns {...body} />}
      {p.kind === 'drop' && <Drops {...body} />}
      {now && now.places.length > 0 && <Says p={p} tally={now} held={held} />}
      <button
        type="button"
        className="quiet"
        onClick={() => {
          setDraft(undefined)
          setPressed(false)
        }}
      >
        Type the figure instead
      </button>
    </div>
  )
}

interface Body {
  p: Schemas['Protocol']
  tools: Schemas['CountTool'][]
  now: Tally | undefined
  disabled: boolean
  keep: string
  setDraft: (t: Tally | undefined) => void
  save: (t: Tally) => void
}

function Pieces({ p, tools, now, disabled, setDraft, save }: Body) {
  const usual = tools[0]
  const tool = tools.find((t) => t.id === now?.tool) ?? usual
  if (!tool) return null
  const places = now?.places.length ? now.places : [{ got: 0, of: tool.cm2 }]
  const at = places.length - 1
  const put = (next: Place[], with_ = tool.id) => setDraft({ tool: with_, places: next })
  const word = p.seconds > 0 ? 'Place' : 'Square'
  return (
    <>
      <label className="count-tool">
        Counted with
        <select
          value={tool.id}
          disabled={disabled}
          onChange={(e) => {
            const t = tools.find((x) => x.id === e.target.value)
            if (t)
              put(
                places.map((x) => ({ ...x, of: t.cm2 })),
                t.id,
              )
          }}
        >
          {tools.map((t) => (
            <option key={t.id} value={t.id}>
              {t.label}
            </option>
          ))}
        </select>
      </label>
      <ol className="count-places" aria-label="Places counted">
        {places.slice(0, at).map((x, i) => (
          <li key={i}>
            <button
              type="button"
              disabled={disabled}
              aria-label={`${word} ${i + 1}: ${x.got}. Count it again`}
              onClick={() => put([...places.slice(0, i), ...places.slice(i + 1), x])}
            >
              {x.got}
            </button>
          </li>
        ))}
      </ol>
      <Press
        label={`in ${word.toLowerCase()} ${at + 1}`}
        n={places[at]?.got ?? 0}
        disabled={disabled}
        onChange={(n) => put([...places.slice(0, at), { got: n, of: tool.cm2 }])}
      />
      <div className="count-do">
        <button
          type="button"
          disabled={disabled || places.length >= 24}
          data-count-next
          onClick={() => put([...places, { got: 0, of: tool.cm2 }])}
        >
          Next {word.toLowerCase()}
        </button>
        <button type="button" className="primary" disabled={disabled} data-count-save onClick={() => save({ tool: tool.id, places })}>
          Done: {places.length} {places.length === 1 ? word.toLowerCase() : `${word.toLowerCase()}s`}
        </button>
      </div>
    </>
  )
}

function Crowns({ now, disabled, setDraft, save }: Body) {
  const x = now?.places[0] ?? { got: 0, of: 0 }
  const put = (alive: number, dead: number) => setDraft(alive + dead > 0 ? { places: [{ got: alive, of: alive + dead }] } : undefined)
  return (
    <>
      <Press label="alive" n={x.got} disabled={disabled} onChange={(n) => put(n, x.of - x.got)} />
      <Press label="dead" n={x.of - x.got} disabled={disabled} onChange={(n) => put(x.got, n)} />
      <div className="count-do">
        <button type="button" className="primary" disabled={disabled || x.of === 0} data-count-save onClick={() => save({ places: [x] })}>
          Done: {x.of} crowns
        </button>
      </div>
    </>
  )
}

function Drops({ now, disabled, keep, setDraft, save }: Body) {
  const places = now?.places ?? []
  return (
    <>
      <ul className="count-drops">
        {depths.map((mm) => {
          const x = places.find((y) => y.of === mm)
          return (
            <li key={mm}>
              <span>{mm} mm</span>
              <b className="num">{x ? `${x.got} s` : ''}</b>
              <Stopwatch
                keep={`${keep}-${mm}`}
                label={x ? 'Again' : 'Drop is on'}
                disabled={disabled}
                onStop={(got) => setDraft({ places: [...places.filter((y) => y.of !== mm), { got, of: mm }].sort((a, b) => a.of - b.of) })}
              />
            </li>
          )
        })}
      </ul>
      <div className="count-do">
        <button
          type="button"
          className="primary"
          disabled={disabled || places.length === 0}
          data-count-save
          onClick={() => save({ places })}
        >
          Done: the longest of {places.length || 'them'}
        </button>
      </div>
    </>
  )
}
