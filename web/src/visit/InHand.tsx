import { useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { Heard } from './Heard'
import { enoughSaid } from './NextChecks'
import { percent } from '../format'
import { FamilyMark } from '../scales/Family'

/** The leading causes in one line; pressed, the scales open over the check. */
function Strip({ d, words, open, onToggle }: { d: Schemas['Result'] | undefined; words: Words; open: boolean; onToggle: () => void }) {
  return (
    <button type="button" className="strip" aria-expanded={open} aria-controls="hand-scales" onClick={onToggle} data-strip>
      {!d && <span className="faint">Weighing …</span>}
      {d?.causes.slice(0, 3).map((c) => (
        <span key={c.id} className="strip-cause" data-cause={c.id}>
          <FamilyMark family={c.family} />
          <span className="strip-name">{words.cause.get(c.id)?.label ?? c.id}</span>
          <b className="num">{percent(c.probability)}</b>
        </span>
      ))}
      <span aria-hidden="true">{open ? '▴' : '▾'}</span>
      <span className="sr-only">{open ? 'Close the scales' : 'Open the scales'}</span>
    </button>
  )
}

/** A visit in one hand: the check in hand, the scales as a strip that opens, and what is pressed at the lower edge. */
export function InHand({
  head,
  diagnosis,
  words,
  scales,
  check,
  pictures,
  seen,
  place,
  plan,
  suggestion,
  sample,
  current,
  undo,
  last,
  onNext,
  onStep,
  onList,
  onSkip,
}: {
  head: ReactNode
  diagnosis: Schemas['Result'] | undefined
  words: Words
  scales: ReactNode
  check: ReactNode
  pictures: ReactNode
  seen: ReactNode
  place: string
  plan: string
  suggestion: string | undefined
  sample: string | undefined
  current: string
  undo: (() => void) | undefined
  last: string
  onNext: () => void
  onStep: (by: number) => void
  onList: () => void
  onSkip: () => void
}) {
  const [open, setOpen] = useState(false)
  const [looking, setLooking] = useState(false)
  const over = (diagnosis?.enough ?? false) || (diagnosis !== undefined && !suggestion)
  return (
    <div className="hand">
      {head}
      <Strip d={diagnosis} words={words} open={open} onToggle={() => setOpen(!open)} />
      {open && (
        <aside id="hand-scales" className="hand-scales" aria-label="The scales">
          {scales}
        </aside>
      )}
      <Heard d={diagnosis} words={words} />
      {!open && (
        <main className="hand-check" aria-label="The check in hand">
          <h2 className="sr-only">The check in hand</h2>
          <p className="hand-place faint">
            {looking ? 'Pictures and notes of this zone' : place}
            <button type="button" className="quiet" aria-pressed={looking} onClick={() => setLooking(!looking)} data-pictures>
              {looking ? 'Back to the check' : 'Pictures, notes'}
            </button>
            {undo && !looking && (
              <button type="button" className="quiet" onClick={undo} data-undo>
                Undo {last}
              </button>
            )}
          </p>
          {!looking && seen}
          {looking && pictures}
          {over && !looking && (
            <p className="settled">
              {diagnosis?.enough ? enoughSaid(diagnosis) : 'Nothing more to check on the lawn.'}
              {!diagnosis?.enough && sample && ` A sample could still tell more: ${words.findingLabel(sample).toLowerCase()}.`}
            </p>
          )}
          {!looking && check}
        </main>
      )}
      <footer className="hand-bar">
        <button type="button" onClick={() => onStep(-1)} aria-label="Check before">
          ‹
        </button>
        <button type="button" onClick={() => onStep(1)} aria-label="Check after">
          ›
        </button>
        <button type="button" onClick={onList} data-list>
          All checks
        </button>
        {over ? (
          <Link className="hand-next" to={plan} data-hand-plan>
            To the plan
          </Link>
        ) : suggestion && suggestion === current ? (
          <button type="button" onClick={onSkip} className="hand-skip" data-hand-skip={suggestion}>
            Can’t do it here
          </button>
        ) : (
          <button
            type="button"
            className="hand-next"
            disabled={!suggestion}
            data-hand-next={suggestion}
            onClick={() => {
              setOpen(false)
              setLooking(false)
              onNext()
            }}
          >
            {suggestion ? (
              <>
                <small>Next</small> {words.findingLabel(suggestion)}
              </>
            ) : (
              <small>Weighing …</small>
            )}
          </button>
        )}
      </footer>
    </div>
  )
}
