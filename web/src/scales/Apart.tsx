import { useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { percent } from '../format'
import { FamilyMark } from './Family'

/** The checks that tell two causes apart, with how likely each answer is under either. */
export function ApartTable({
  checks,
  a,
  b,
  words,
  onGo,
}: {
  checks: Schemas['Apart'][]
  a: string
  b: string
  words: Words
  onGo?: (finding: string) => void
}) {
  if (checks.length === 0) return <p className="faint">No remaining check separates these two.</p>
  return (
    <table className="apart">
      <thead>
        <tr>
          <th scope="col">Check</th>
          <th scope="col">Answer</th>
          {[a, b].map((c) => (
            <th key={c} scope="col" className="num">
              <FamilyMark family={words.cause.get(c)?.family ?? ''} /> {words.cause.get(c)?.label}
            </th>
          ))}
        </tr>
      </thead>
      {checks.map((x) => (
        <tbody key={x.finding}>
          {x.outcomes.slice(0, 2).map((o, i) => (
            <tr key={o.label}>
              {i === 0 && (
                <th scope="rowgroup" rowSpan={Math.min(2, x.outcomes.length)}>
                  {onGo ? (
                    <button type="button" className="quiet apart-go" onClick={() => onGo(x.finding)}>
                      {words.findingLabel(x.finding)}
                    </button>
                  ) : (
                    words.findingLabel(x.finding)
                  )}
                  <span className="num faint">{x.minutes.toFixed(1)} min</span>
                </th>
              )}
              <td>{words.valueLabel(x.finding, o.label)}</td>
              <td className="num" data-more={o.a > o.b}>
                {percent(o.a)} %
              </td>
              <td className="num" data-more={o.b > o.a}>
                {percent(o.b)} %
              </td>
            </tr>
          ))}
        </tbody>
      ))}
    </table>
  )
}

/** Two causes on this lawn: the checks not yet made that separate them best for their minutes. */
export function Apart({
  visit,
  zone,
  a,
  b,
  seq,
  words,
  onGo,
}: {
  visit: string
  zone: string
  a: string
  b: string
  seq: number
  words: Words
  onGo: (finding: string) => void
}) {
  const checks = useQuery({
    queryKey: ['apart', visit, zone, a, b, seq],
    queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/apart', { params: { path: { id: visit, zone }, query: { a, b } } })),
  })
  return (
    <section className="ledger apart-box" aria-label="What tells them apart">
      <h3>What tells them apart</h3>
      {checks.data ? (
        <ApartTable checks={checks.data} a={a} b={b} words={words} onGo={onGo} />
      ) : (
        <p className="faint">{checks.isError ? 'Not available right now.' : 'Weighing…'}</p>
      )}
    </section>
  )
}
