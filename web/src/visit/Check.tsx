import { useEffect, useRef, useState, type ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { fromSI, readNumber, toSI, unitFor, type UnitSystem } from '../format'
import { Count, type Held } from './Count'
import type { How } from './useAnswers'
import { answerKeys } from './keys'

export type Plain = boolean | number | string | string[] | null

/** What a check says, and how far that has come: kept on this device, saved by the server, or refused. */
export interface Answered {
  value: Plain
  state: 'here' | 'saved' | 'refused'
  by: string
  /** how it was counted */
  tally?: Schemas['Tally'] | undefined
  /** what somebody else answered meanwhile, unseen by whoever gave this one */
  other?: Schemas['Other'] | undefined
}

/** One of two answers to a check that know nothing of each other. */
export interface Rival {
  by: string
  says: string
  value: Plain
}

interface Props {
  finding: Schemas['VFinding']
  caution: string
  value: Plain | undefined
  state: Answered['state'] | undefined
  by: string
  active: boolean
  suggested: boolean
  units: UnitSystem
  causes: Schemas['VCause'][]
  disabled: boolean
  /** what records, a former visit or another zone say; one tap confirms it */
  offers?: { key: string; from: string; says: string; value: Plain }[] | undefined
  /** two people's answers, of which one has to be chosen; the first of them stands */
  rivals?: Rival[] | undefined
  onActivate: () => void
  /** what a count is held against; left out where nothing is counted */
  held?: Held | undefined
  tally?: Schemas['Tally'] | undefined
  /** under which a count that is not saved yet is kept on the device */
  keep?: string
  onAnswer: (value: Plain, how?: How) => void
  /** what the answer may be drawn in, over it */
  lead?: ReactNode
  /** what helps to come to the answer, under it */
  aid?: ReactNode
  /** the same check at the good spot; left out where it is made at the bad one alone */
  good?: GoodSpot | undefined
}

export interface GoodSpot {
  value: Plain | undefined
  state: Answered['state'] | undefined
  offers: Props['offers']
  rivals?: Rival[] | undefined
  onAnswer: (value: Plain, how?: How) => void
}

export interface Choice {
  id: string
  label: string
  value: Plain
  on: boolean
}

/** The answers that a check offers as buttons; a number offers none. */
export function choicesOf(f: Schemas['VFinding'], value: Plain | undefined, causes: Schemas['VCause'][]): Choice[] {
  const list = Array.isArray(value) ? value : undefined
  switch (f.kind) {
    case 'yes-no':
      return [
        { id: 'yes', label: 'Yes', value: value === true ? null : true, on: value === true },
        { id: 'no', label: 'No', value: value === false ? null : false, on: value === false },
      ]
    case 'one-of':
      return f.values.map((v) => ({ id: v.id, label: v.label, value: value === v.id ? null : v.id, on: value === v.id }))
    case 'any-of': {
      const own = f.values.filter((v) => v.id !== 'none')
      const none = f.values.some((v) => v.id === 'none')
      const chosen = (list ?? []).filter((x) => x !== 'none')
      return [
        ...own.map((v) => ({
          id: v.id,
          label: v.label,
          value: chosen.includes(v.id) ? without(chosen, v.id) : [...chosen, v.id],
          on: chosen.includes(v.id),
        })),
        {
          id: 'none',
          label: 'None of these',
          value: list?.length === (none ? 1 : 0) && chosen.length === 0 ? null : none ? ['none'] : [],
          on: list !== undefined && chosen.length === 0,
        },
      ]
    }
    case 'cause-or-none':
      return [
        ...causes
          .filter((c) => c.family === 'disease')
          .map((c) => ({ id: c.id, label: c.label, value: value === c.id ? null : c.id, on: value === c.id })),
        { id: 'none', label: 'Nothing found', value: value === 'none' ? null : 'none', on: value === 'none' },
      ]
    case 'cause-ids': {
      const chosen = list ?? []
      return [
        ...causes
          .filter((c) => c.id !== 'healthy-turf')
          .map((c) => ({
            id: c.id,
            label: c.label,
            value: chosen.includes(c.id) ? without(chosen, c.id) : [...chosen, c.id],
            on: chosen.includes(c.id),
          })),
        { id: 'none', label: 'None', value: list?.length === 0 ? null : [], on: list?.length === 0 },
      ]
    }
    default:
      return []
  }
}

/** Taking the last item off a list takes the answer back; "none of these" is said by its own button. */
function without(list: string[], id: string): string[] | null {
  const rest = list.filter((x) => x !== id)
  return rest.length ? rest : null
}

function NumberAnswer({ finding, value, units, disabled, onAnswer }: Pick<Props, 'finding' | 'value' | 'units' | 'disabled' | 'onAnswer'>) {
  const unit = unitFor(finding.measure, units)
  const si = unit ? finding.measure : undefined
  const shown = typeof value === 'number' ? String(Math.round((si ? fromSI(value, si, units) : value) * 100) / 100) : ''
  const [text, setText] = useState(shown)
  const [editing, setEditing] = useState(false)
  const [problem, setProblem] = useState('')
  const field = useRef<HTMLInputElement>(null)
  const current = editing ? text : shown
  const low = si ? fromSI(finding.min, si, units) : finding.min
  const high = si ? fromSI(finding.max, si, units) : finding.max

  const commit = (raw: string) => {
    if (raw.trim() === '') {
      setEditing(false)
      setProblem('')
      if (shown !== '') onAnswer(null)
      return
    }
    const n = readNumber(raw)
    if (n === undefined) return setProblem('This is not a number')
    if (n < low || n > high) return setProblem(`Between ${Math.round(low)} and ${Math.round(high)}`)
    setProblem('')
    setEditing(false)
    if (raw === shown) return
    if (unit && si && unit.id !== si) onAnswer(toSI(n, si, units), { entered: { amount: n, unit: unit.id } })
    else onAnswer(n)
  }
  const step = (by: number) => {
    const base = readNumber(current) ?? 0
    const next = Math.min(high, Math.max(low, Math.round((base + by) * 1000) / 1000))
    setText(String(next))
    commit(String(next))
  }
  return (
    <div className="number">
      <button
        type="button"
        className="stepper"
        disabled={disabled}
        onClick={() => step(-finding.step)}
        aria-label={`Less ${finding.label}`}
      >
        −
      </button>
      <input
        ref={field}
        className="number-field"
        inputMode="decimal"
        aria-label={finding.label}
        aria-invalid={problem !== ''}
        disabled={disabled}
        value={current}
        placeholder="—"
        onFocus={() => {
          setText(shown)
          setEditing(true)
        }}
        onChange={(e) => setText(e.target.value)}
        onBlur={(e) => commit(e.target.value)}
        onKeyDown={(e) => {
          if (e.key === 'Enter') {
            commit(e.currentTarget.value)
            e.currentTarget.blur()
          }
          if (e.key === 'Escape') {
            setText(shown)
            setEditing(false)
            setProblem('')
            e.currentTarget.value = shown
            e.currentTarget.blur()
          }
          if (e.key === 'ArrowUp') {
            e.preventDefault()
            step(finding.step)
          }
          if (e.key === 'ArrowDown') {
            e.preventDefault()
            step(-finding.step)
          }
          e.stopPropagation()
        }}
      />
      <button type="button" className="stepper" disabled={disabled} onClick={() => step(finding.step)} aria-label={`More ${finding.label}`}>
        +
      </button>
      <span className="unit">{unit?.label ?? finding.measure}</span>
      {problem && (
        <span className="problem" role="alert">
          {problem}
        </span>
      )}
    </div>
  )
}

/** What lies between both spots, in words; nothing while one is missing. */
export function differenceSaid(f: Schemas['VFinding'], bad: Plain | undefined, good: Plain | undefined, units: UnitSystem): string {
  if (bad === undefined || bad === null || good === undefined || good === null) return ''
  if (typeof bad === 'number' && typeof good === 'number') {
    const unit = unitFor(f.measure, units)
    const shown = (x: number) => Math.round((unit ? fromSI(x, f.measure, units) : x) * 10) / 10
    const by = Math.round((shown(bad) - shown(good)) * 10) / 10
    if (by === 0) return 'Same at both spots.'
    return `${Math.abs(by)} ${unit?.label ?? f.measure} ${by > 0 ? 'more' : 'less'} at the bad spot.`
  }
  return bad === good ? 'Same at both spots.' : 'Different at the two spots.'
}

function said(p: Props, answered: boolean): string {
  if (p.state === 'here') return 'saved on this device'
  if (p.state === 'refused') return 'not saved, see below'
  if (!answered) return `${p.finding.minutes} min`
  return p.by ? `saved, ${p.by.split(' ')[0] ?? ''}` : 'saved'
}

/** One check of the station as large answers. */
export function Check(p: Props) {
  const card = useRef<HTMLDivElement>(null)
  const [more, setMore] = useState(false)
  useEffect(() => {
    const it = card.current
    // a card taller than the place it stands in is read from its top
    if (p.active && it) it.scrollIntoView({ block: it.offsetHeight > (it.parentElement?.clientHeight ?? 0) ? 'start' : 'nearest' })
  }, [p.active])
  const all = choicesOf(p.finding, p.value, p.causes)
  const long = all.length > 28
  const chosen = all.filter((c) => c.on)
  const shown = long && !more ? chosen : all
  const [counting, setCounting] = useState(false)
  const answered = p.value !== undefined && p.value !== null
  return (
    <div
      ref={card}
      className="check"
      data-finding={p.finding.id}
      data-active={p.active}
      data-answered={answered}
      data-state={p.state}
      onClick={p.onActivate}
      role="group"
      aria-label={p.finding.label}
    >
      <div className="check-head">
        <h3>{p.finding.label}</h3>
        {p.suggested && <span className="tag-next">worth doing next</span>}
        <span className="check-ask">{p.finding.ask}</span>
        <span className="check-state">{said(p, answered)}</span>
      </div>
      {p.active && p.caution && !counting && <p className="caution">{p.caution}</p>}
      {p.rivals && <Rivals list={p.rivals} disabled={p.disabled} onAnswer={p.onAnswer} />}
      {p.lead}
      {!answered &&
        !counting &&
        p.offers?.map((o) => (
          <button key={o.key} type="button" className="offer" disabled={p.disabled} data-offer={o.key} onClick={() => p.onAnswer(o.value)}>
            <span className="faint">{o.from}</span> <b>{o.says}</b>
          </button>
        ))}
      {p.finding.kind === 'number' ? (
        <>
          {p.held && (
            <Count
              finding={p.finding.id}
              keep={p.keep ?? p.finding.id}
              tally={p.tally}
              disabled={p.disabled}
              held={p.held}
              onOpen={setCounting}
              onTally={(tally, value) => p.onAnswer(value, { tally })}
            />
          )}
          {!counting && <NumberAnswer {...p} />}
        </>
      ) : (
        <div className="answers">
          {shown.map((c) => {
            const hint = !long && p.active ? answerKeys[all.indexOf(c)] : undefined
            return <ChoiceButton key={c.id} choice={c} hint={hint} disabled={p.disabled} onAnswer={p.onAnswer} />
          })}
          {long && (
            <button type="button" className="answer quiet" onClick={() => setMore(!more)}>
              {more ? 'Fewer' : 'Choose from the list'}
            </button>
          )}
        </div>
      )}
      {!counting && p.aid}
      {p.good && !counting && <Good check={p} good={p.good} />}
    </div>
  )
}

/** Two people answered one check, neither having seen the other's answer: both side by side, until one is chosen. */
function Rivals({ list, disabled, onAnswer }: { list: Rival[]; disabled: boolean; onAnswer: (value: Plain) => void }) {
  return (
    <div className="rivals" role="group" aria-label="Two answers">
      <p>Two people answered this. Which one is right?</p>
      {list.map((r, i) => (
        <button key={r.by} type="button" className="offer" disabled={disabled} onClick={() => onAnswer(r.value)} data-rival={i}>
          <span className="faint">{r.by}</span> <b>{r.says}</b>
        </button>
      ))}
    </div>
  )
}

/** One answer that a check offers. */
function ChoiceButton({
  choice: c,
  hint,
  disabled,
  onAnswer,
}: {
  choice: Choice
  hint?: string | undefined
  disabled: boolean
  onAnswer: (value: Plain) => void
}) {
  return (
    <button type="button" className="answer" data-value={c.id} aria-pressed={c.on} disabled={disabled} onClick={() => onAnswer(c.value)}>
      {hint && <kbd>{hint}</kbd>}
      {c.label}
    </button>
  )
}

/** The same check at the good spot, beside the bad one, with what lies between them. */
function Good({ check: p, good }: { check: Props; good: GoodSpot }) {
  const [opened, setOpened] = useState(false)
  const answered = good.value !== undefined && good.value !== null
  const difference = differenceSaid(p.finding, p.value, good.value, p.units)
  if (!opened && !answered && !p.finding.apart)
    return !p.active ? null : (
      <button type="button" className="quiet good-open" disabled={p.disabled} onClick={() => setOpened(true)} data-good-open={p.finding.id}>
        Compare with a good spot
      </button>
    )
  return (
    <div className="good-spot" data-finding={`${p.finding.id}@healthy`} data-answered={answered} data-state={good.state} role="group">
      <b>Good spot</b>
      {good.rivals && <Rivals list={good.rivals} disabled={p.disabled} onAnswer={good.onAnswer} />}
      {!answered &&
        good.offers?.map((o) => (
          <button
            key={o.key}
            type="button"
            className="offer"
            disabled={p.disabled}
            data-offer={o.key}
            onClick={() => good.onAnswer(o.value)}
          >
            <span className="faint">{o.from}</span> <b>{o.says}</b>
          </button>
        ))}
      {p.finding.kind === 'number' ? (
        <NumberAnswer
          finding={{ ...p.finding, label: `${p.finding.label}, good spot` }}
          value={good.value}
          units={p.units}
          disabled={p.disabled}
          onAnswer={good.onAnswer}
        />
      ) : (
        <div className="answers">
          {choicesOf(p.finding, good.value, p.causes).map((c) => (
            <ChoiceButton key={c.id} choice={c} disabled={p.disabled} onAnswer={good.onAnswer} />
          ))}
        </div>
      )}
      {difference && (
        <p className="difference" role="status">
          {difference}
        </p>
      )}
    </div>
  )
}
