import type { Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { percent } from '../format'
import { inOrder } from '../plan/order'
import { FamilyMark } from '../scales/Family'

/** Why no more is asked. */
export const enoughSaid = (d: { settled: boolean }) =>
  d.settled ? 'No further check would change the decision.' : 'Enough is known. What is left to check would hardly change the decision.'

/** What is worth checking next, and why. */
export function NextChecks({
  next,
  decisive,
  settled,
  enough,
  words,
  currency,
  onGo,
}: {
  currency: string
  next: Schemas['Check'][]
  decisive: Schemas['Wanted'][]
  settled: boolean
  enough: boolean
  words: Words
  onGo: (finding: string) => void
}) {
  const first = decisive.slice(0, 1)
  // in the order of their worth: what a likely remedy may not go without comes first
  const shown = next
    .filter((n) => (n.days === undefined || n.days === 0 || n.decides) && !first.some((w) => w.finding === n.finding))
    .slice(0, 3 - first.length)
  return (
    <section className="next" aria-label="Next checks">
      <h2>
        Next worth doing <kbd>n</kbd>
      </h2>
      {enough && <p className="settled">{enoughSaid({ settled })}</p>}
      {first.map((w) => (
        <button key={w.finding} type="button" className="next-check" data-next={w.finding} onClick={() => onGo(w.finding)}>
          <span className="next-name">{words.findingLabel(w.finding)}</span>
          <span className="num">decides</span>
          <span className="faint">
            {words.action.get(w.action)?.label}: {w.reason}
          </span>
        </button>
      ))}
      {shown.map((n, i) => {
        const proc = words.procedure.get(n.procedure)
        return (
          <button key={n.procedure} type="button" className="next-check" data-next={n.finding} onClick={() => onGo(n.finding)}>
            <span className="next-name">{words.findingLabel(n.finding)}</span>
            <span className="num">
              {n.worth >= 1 ? `worth ${Math.round(n.worth)} ${currency}, ` : ''}
              {n.minutes.toFixed(1)} min{n.days ? `, ${n.days} days` : ''}
            </span>
            {n.needed_for && (
              <span className="next-needed">Needed before you treat {words.cause.get(n.needed_for)?.label.toLowerCase()}</span>
            )}
            <span className="faint">
              {n.bundled && next.filter((x) => x.bundled).length > 1 ? 'this stop: ' : ''}
              {proc?.label}
              {n.also?.length ? `, with ${n.also.map((f) => words.findingLabel(f).toLowerCase()).join(' and ')}` : ''}
            </span>
            {i === 0 && !enough && (
              <span className="outcomes">
                {n.outcomes.slice(0, 3).map((o) => {
                  const c = o.causes[0]
                  return (
                    c && (
                      <span key={o.label} className="outcome">
                        {words.valueLabel(n.finding, o.label)} <span className="faint">({percent(o.chance)} %)</span> →{' '}
                        <FamilyMark family={words.cause.get(c.id)?.family ?? ''} /> {words.cause.get(c.id)?.label}{' '}
                        <b className="num">{percent(c.probability)} %</b>
                      </span>
                    )
                  )
                })}
              </span>
            )}
          </button>
        )
      })}
    </section>
  )
}

/** The single answers after which something else would lead. */
export function Changes({ changes, words, onGo }: { changes: Schemas['Change'][]; words: Words; onGo: (finding: string) => void }) {
  return (
    <section className="ledger" aria-label="What would change this">
      <h3>What would change this</h3>
      {changes.length === 0 && <p className="faint">No single remaining check would change this.</p>}
      <ul className="changes">
        {changes.map((c) => (
          <li key={c.finding}>
            <button type="button" className="quiet" onClick={() => onGo(c.finding)}>
              {words.findingLabel(c.finding)}: {words.valueLabel(c.finding, c.outcome)}
            </button>
            <span className="faint">{percent(c.chance)} % likely; then</span> <FamilyMark family={words.cause.get(c.leads)?.family ?? ''} />{' '}
            {words.cause.get(c.leads)?.label} <b className="num">{percent(c.then)} %</b>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What may be decided already: what to do now, and what would do harm although people reach for it. */
export function Decided({ actions, words }: { actions: Schemas['ActionLine'][]; words: Words }) {
  const of = (a: Schemas['ActionLine']) => words.action.get(a.id)
  const does = inOrder(actions.filter((a) => a.verdict === 'do-now' && of(a)?.recorded && !a.as)).slice(0, 3)
  const harms = actions
    .filter((a) => a.called && (of(a)?.pesticide || of(a)?.feeds) && (a.verdict === 'hold' || a.verdict === 'check-first'))
    .slice(0, 3)
  return (
    <section className="decided" aria-label="Already decided">
      {does.length + harms.length > 0 && <h2>Already clear</h2>}
      {does.map((a) => (
        <p key={a.id} data-verdict="do-now">
          <b>Do</b> {a.label}: <span className="faint">{a.reasons[0]}</span>
        </p>
      ))}
      {harms.map((a) => (
        <p key={a.id} data-verdict={a.verdict}>
          <b>{a.verdict === 'hold' ? 'Wait' : 'Check'}</b> {a.label}: <span className="faint">{a.reasons[0]}</span>
        </p>
      ))}
    </section>
  )
}
