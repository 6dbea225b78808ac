import { useState } from 'react'
import type { Schemas } from '../api/client'
import { fromSI, unitFor, type UnitSystem } from '../format'
import type { Plain } from './Check'
import { askNext, textureBy, type Felt } from './feel'

/** Texture by feel, one question at a time; what it comes to is taken over with one press. */
export function Feel({
  rows,
  label,
  disabled,
  onTake,
}: {
  rows: Schemas['VFeel'][]
  label: (texture: string) => string
  disabled: boolean
  onTake: (texture: string) => void
}) {
  const [felt, setFelt] = useState<Felt>()
  if (!felt)
    return (
      <button type="button" className="quiet good-open" disabled={disabled} onClick={() => setFelt({})} data-feel>
        By feel, step by step
      </button>
    )
  const next = askNext(felt)
  const texture = textureBy(felt, rows)
  const ask = (question: string, choices: readonly (readonly [string, Felt])[]) => (
    <>
      <p>{question}</p>
      <div className="answers">
        {choices.map(([l, f]) => (
          <button key={l} type="button" className="answer" onClick={() => setFelt({ ...felt, ...f })}>
            {l}
          </button>
        ))}
      </div>
    </>
  )
  return (
    <div className="good-spot" role="group" aria-label="Texture by feel">
      {next === 'ball' &&
        ask('Wet a lump the size of an egg till it kneads like putty. Squeeze it: does it hold together?', [
          ['It holds', { ball: true }],
          ['It falls apart', { ball: false }],
        ])}
      {next === 'ribbon' &&
        ask('Press it out over the finger with the thumb. How long does the ribbon get before it breaks?', [
          ['No ribbon', { ribbon: 0 }],
          ['Up to 25 mm (1 in)', { ribbon: 15 }],
          ['25 to 50 mm (1 to 2 in)', { ribbon: 35 }],
          ['Longer', { ribbon: 60 }],
        ])}
      {next === 'feel' &&
        ask('Rub a pinch very wet in the palm. What do you feel?', [
          ['Grit', { feel: 'gritty' }],
          ['Smooth as flour', { feel: 'smooth' }],
          ['Neither one most', { feel: 'neither' }],
        ])}
      {texture && (
        <button
          type="button"
          className="offer"
          disabled={disabled}
          data-take-texture={texture}
          onClick={() => {
            onTake(texture)
            setFelt(undefined)
          }}
        >
          <span className="faint">Take</span> <b>{label(texture)}</b>
        </button>
      )}
      <button type="button" className="quiet" onClick={() => setFelt(undefined)}>
        Close
      </button>
    </div>
  )
}

const deepest = 150 // mm, as long as a core is pulled
const marks = [75, 100] // where a core is marked

/** A core to be pointed at: a tap says how deep; it is marked at 75 and 100 mm. */
export function CoreStrip({
  label,
  value,
  units,
  disabled,
  onAnswer,
}: {
  label: string
  value: Plain | undefined
  units: UnitSystem
  disabled: boolean
  onAnswer: (mm: number) => void
}) {
  const unit = unitFor('mm', units)
  const shown = (mm: number) => `${Math.round(fromSI(mm, 'mm', units) * 10) / 10} ${unit?.label ?? 'mm'}`
  const at = typeof value === 'number' ? Math.min(deepest, value) : undefined
  return (
    <svg
      className="core-strip"
      viewBox="-4 -6 100 162"
      role="img"
      aria-label={`Core, marked at ${marks.map(shown).join(' and ')}${at === undefined ? '' : `; ${label.toLowerCase()} ${shown(at)}`}`}
      data-disabled={disabled}
      onPointerDown={(e) => {
        const m = e.currentTarget.getScreenCTM()?.inverse()
        if (!m || disabled) return
        const y = new DOMPoint(e.clientX, e.clientY).matrixTransform(m).y
        onAnswer(Math.round(Math.max(0, Math.min(deepest, y)) / 5) * 5)
      }}
    >
      <rect className="core-soil" width="34" height={deepest} rx="3" />
      <rect className="core-grass" x="0" y="-6" width="34" height="7" />
      {at !== undefined && <rect className="core-deep" width="34" height={at} />}
      {marks.map((mm) => (
        <g key={mm}>
          <path d={`M-3 ${mm}H40`} className="core-mark" />
          <text x="44" y={mm + 4}>
            {shown(mm)}
          </text>
        </g>
      ))}
      {at !== undefined && (
        <text x="44" y={Math.max(8, at + 4)} className="core-said">
          {marks.some((m) => Math.abs(m - at) < 10) ? '' : shown(at)}
        </text>
      )}
    </svg>
  )
}

/** The clock time of a reading, as hours of the day, and back. */
export const hourOf = (clock: string): number | null => {
  const m = /^(\d{1,2}):(\d{2})/.exec(clock)
  return m ? Number(m[1]) + Number(m[2]) / 60 : null
}
export const clockOf = (hour: number): string =>
  `${String(Math.floor(hour)).padStart(2, '0')}:${String(Math.round((hour % 1) * 60) % 60).padStart(2, '0')}`

/** When a soil temperature was read: filled in by the clock, to be corrected. */
export function HourOfReading({
  value,
  disabled,
  onAnswer,
}: {
  value: Plain | undefined
  disabled: boolean
  onAnswer: (hour: number | null) => void
}) {
  return (
    <label className="hour-of-reading">
      Read at{' '}
      <input
        type="time"
        aria-label="Hour of the reading"
        disabled={disabled}
        value={typeof value === 'number' ? clockOf(value) : ''}
        onChange={(e) => onAnswer(hourOf(e.target.value))}
      />
      <span className="faint"> The soil is warmest in mid to late afternoon.</span>
    </label>
  )
}
