import { percent } from '../format'
import type { Words } from '../api/queries'
import type { Schemas } from '../api/client'
import { FamilyMark } from './Family'

/** One cause on its rail: how far it stands, where it stood before, and from where acting pays. */
export function Rail({ p, before, marks, label }: { p: number; before?: number; marks?: Schemas['Marks']; label: string }) {
  const moved = before !== undefined && Math.abs(before - p) >= 0.01
  return (
    <svg
      className="rail"
      viewBox="0 0 200 18"
      preserveAspectRatio="none"
      role="img"
      aria-label={`${label}: ${percent(p)} per cent${moved ? `, was ${percent(before)}` : ''}${marks ? `; acting pays from ${percent(marks.act)}` : ''}`}
    >
      <line className="rail-bed" x1="0" x2="200" y1="13" y2="13" />
      <rect className="rail-run" x="0" y="8" width={200 * p} height="10" />
      {moved && (
        <rect
          className="rail-ghost"
          x={200 * Math.min(p, before)}
          y="8"
          width={200 * Math.abs(p - before)}
          height="10"
          data-up={p > before}
        />
      )}
      {marks && marks.check_to > marks.check_from && (
        <path className="rail-check" d={`M${200 * marks.check_from} 4H${200 * marks.check_to}`} />
      )}
      {marks && <path className="rail-act" d={`M${200 * marks.act} 1v17`} />}
    </svg>
  )
}

interface Props {
  diagnosis: Schemas['Result']
  before?: Map<string, number>
  words: Words
  selected: string[]
  onSelect: (cause: string) => void
  rows?: number
}

/** The causes by weight. The row is a button that opens the ledger. */
export function Scales({ diagnosis, before, words, selected, onSelect, rows = 7 }: Props) {
  const shown = diagnosis.causes.filter((c, i) => i < 3 || (i < rows && c.probability >= 0.01))
  return (
    <ol className="scales" aria-label="Causes by weight">
      {shown.map((c) => {
        const word = words.cause.get(c.id)
        const was = before?.get(c.id)
        const step = was === undefined ? 0 : Math.round((c.probability - was) * 100)
        return (
          <li key={c.id}>
            <button
              type="button"
              className="scale-row"
              data-cause={c.id}
              aria-pressed={selected.includes(c.id)}
              onClick={() => onSelect(c.id)}
            >
              <FamilyMark family={c.family} />
              <span className="scale-name">{word?.label ?? c.id}</span>
              <span className="scale-step" data-up={step > 0}>
                {step === 0 ? '' : `${step > 0 ? '▲' : '▼'} ${Math.abs(step)}`}
              </span>
              <span className="scale-p" data-p={c.probability}>
                {percent(c.probability)}
                <small> %</small>
              </span>
              <Rail p={c.probability} before={was} marks={c.marks} label={word?.label ?? c.id} />
            </button>
          </li>
        )
      })}
      {diagnosis.not_explained >= 0.02 && (
        <li className="scale-other" data-p={diagnosis.not_explained}>
          <span className="scale-name">Not explained yet</span>
          <span className="scale-p">
            {percent(diagnosis.not_explained)}
            <small> %</small>
          </span>
          {diagnosis.not_explained >= 0.25 && (
            <span className="faint">It fits none of these well: a laboratory, or a second pair of eyes.</span>
          )}
        </li>
      )}
    </ol>
  )
}
