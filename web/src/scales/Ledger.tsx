import { percent, signedBits } from '../format'
import type { Words } from '../api/queries'
import type { Schemas } from '../api/client'
import { FamilyMark } from './Family'
import { ActingPays } from './ActingPays'

const inWords = (b: number): string => {
  const a = Math.abs(b)
  const strength = a >= 3 ? 'decisive' : a >= 1.5 ? 'strong' : a >= 0.6 ? 'fair' : 'slight'
  return `${strength}, ${b >= 0 ? 'for' : 'against'}`
}

function Line({ label, value, bits, kind }: { label: string; value: string; bits: number; kind: string }) {
  const width = Math.min(100, Math.abs(bits) * 16)
  return (
    <tr data-kind={kind}>
      <th scope="row">
        {label}
        {value && <span className="ledger-value">{value}</span>}
      </th>
      <td className="ledger-word">{kind === 'row' ? inWords(bits) : ''}</td>
      <td className="ledger-bar">
        <svg viewBox="0 0 200 12" aria-hidden="true" preserveAspectRatio="none">
          <rect x={bits < 0 ? 100 - width : 100} y="2" width={width} height="8" data-up={bits >= 0} />
          <line x1="100" x2="100" y1="0" y2="12" />
        </svg>
      </td>
      <td className="num" data-bits={bits}>
        {signedBits(bits)}
      </td>
    </tr>
  )
}

/** What speaks for a cause and against it; the rows add up to where it stands. */
export function Ledger({
  cause,
  words,
  currency,
  onClose,
}: {
  cause: Schemas['Cause']
  words: Words
  currency: string
  onClose?: () => void
}) {
  const word = words.cause.get(cause.id)
  const rows = [...cause.for, ...cause.against].sort((a, b) => Math.abs(b.bits) - Math.abs(a.bits))
  const sum =
    cause.prior_bits + (cause.nearby_bits ?? 0) + (cause.learnt_bits ?? 0) + rows.reduce((s, r) => s + r.bits, 0) + cause.together_bits
  return (
    <section className="ledger" aria-label={`Ledger of ${word?.label ?? cause.id}`}>
      <header>
        <FamilyMark family={cause.family} />
        <h3>{word?.label ?? cause.id}</h3>
        <strong className="num">{percent(cause.probability)} %</strong>
        {onClose && (
          <button type="button" className="quiet" onClick={onClose} aria-label="Close the ledger">
            Close <kbd>Esc</kbd>
          </button>
        )}
      </header>
      <table>
        <thead>
          <tr>
            <th scope="col">Finding</th>
            <th scope="col">Weight</th>
            <th scope="col">
              <span className="unseen">against and for</span>
            </th>
            <th scope="col" className="num">
              bits
            </th>
          </tr>
        </thead>
        <tbody>
          <Line label="Before looking: grass, month, place" value="" bits={cause.prior_bits} kind="prior" />
          {cause.nearby !== undefined && (
            <Line
              label={`Confirmed on ${cause.nearby === 1 ? 'another lawn' : `${cause.nearby} other lawns`} nearby these weeks`}
              value=""
              bits={cause.nearby_bits ?? 0}
              kind="row"
            />
          )}
          {cause.learnt_bits !== undefined && (
            <Line
              label={`Your own closed cases: ${cause.learnt_bits > 0 ? 'more' : 'less'} often than the tables say`}
              value=""
              bits={cause.learnt_bits}
              kind="row"
            />
          )}
          {rows.map((r) => (
            <Line
              key={r.finding}
              label={
                words.findingLabel(r.finding) +
                (r.with ? ` (with ${r.with.map((f) => words.findingLabel(f).toLowerCase()).join(', ')}: one fact)` : '')
              }
              value={words.valueLabel(r.finding, r.value)}
              bits={r.bits}
              kind="row"
            />
          ))}
          <Line label="Acting together: what other causes explain" value="" bits={cause.together_bits} kind="together" />
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">Adds up to {percent(cause.probability)} %</th>
            <td />
            <td />
            <td className="num">{signedBits(sum)}</td>
          </tr>
        </tfoot>
      </table>
      {rows.length === 0 && <p className="faint">Nothing found so far is for or against it.</p>}
      {cause.marks && <ActingPays marks={cause.marks} p={cause.probability} words={words} currency={currency} />}
    </section>
  )
}
