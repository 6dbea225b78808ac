import { Link, useParams } from 'react-router'
import { useCause, useMe, useWords } from '../api/queries'
import { ActingPays } from '../scales/ActingPays'
import { FamilyMark, familyLabels } from '../scales/Family'
import { Busy, Problem } from '../Shell'
import { Signature } from './Signature'
import './causes.css'

const letters = 'J F M A M J J A S O N D'.split(' ')

export function Year({ months, south }: { months: number[]; south: boolean }) {
  if (months.length === 0) return null
  return (
    <figure>
      <figcaption>Through the year {south ? '(south)' : '(north)'}</figcaption>
      <svg viewBox="0 0 360 130" role="img" aria-label={`By month, 0 to 9: ${months.join(' ')}`}>
        {months.map((m, i) => (
          <g key={i}>
            <rect className="year-bar" x={i * 30 + 3} y={100 - m * 10} width="24" height={Math.max(1, m * 10)} />
            <text x={i * 30 + 15} y="120" textAnchor="middle">
              {letters[i]}
            </text>
          </g>
        ))}
      </svg>
    </figure>
  )
}

export default function CausePage() {
  const { cause = '' } = useParams()
  const words = useWords()
  const me = useMe().data
  const page = useCause(cause)
  if (page.isLoadingError) return <Problem error={page.error} />
  if (!page.data || !words || !me) return <Busy what="the page" />
  const c = page.data
  return (
    <main className="cause">
      <p>
        <Link className="back" to="/causes">
          All causes
        </Link>
      </p>
      <h1>
        <FamilyMark family={c.family} /> {c.label}{' '}
        <small className="faint">
          {familyLabels[c.family]}
          {c.turf === 'C' ? ', cool-season grasses' : c.turf === 'W' ? ', warm-season grasses' : ''}
        </small>
      </h1>
      <div className="cause-grid">
        <div>
          <Signature page={c} words={words} />
          <dl>
            <dt>Signature</dt>
            <dd>{c.signature}</dd>
            <dt>When</dt>
            <dd>{c.when}</dd>
            <dt data-kind="for">Proof</dt>
            <dd>{c.proof}</dd>
            <dt data-kind="against">Against</dt>
            <dd>{c.against}</dd>
          </dl>
        </div>
        <div>
          <Year months={c.months} south={c.south} />
          {c.mistaken.length > 0 && (
            <section className="mistaken">
              <h2>Mistaken for</h2>
              {c.mistaken.map((m) => (
                <p key={m}>
                  <Link className="look-alike" to={`/causes/${m}`}>
                    <FamilyMark family={words.cause.get(m)?.family ?? ''} /> {words.cause.get(m)?.label}
                  </Link>{' '}
                  <Link className="beside-it" to={`/causes/${c.id}/beside/${m}`}>
                    side by side
                  </Link>
                </p>
              ))}
            </section>
          )}
          {c.marks && (
            <section>
              <h2>When acting pays</h2>
              <ActingPays marks={c.marks} words={words} currency={me.currency} />
            </section>
          )}
        </div>
      </div>
      {c.limits.length > 0 && (
        <section>
          <h2>Figures to hold a reading against</h2>
          <table className="evidence">
            <thead>
              <tr>
                <th scope="col">Read on</th>
                <th scope="col">Figure</th>
                <th scope="col">Means</th>
                <th scope="col">Source</th>
              </tr>
            </thead>
            <tbody>
              {c.limits.map((l) => (
                <tr key={l.finding + l.figure}>
                  <th scope="row">{words.findingLabel(l.finding)}</th>
                  <td className="figure">{l.figure}</td>
                  <td>{l.means}</td>
                  <td className="faint">{l.source}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {c.evidence.length > 0 && (
        <section>
          <h2>How it weighs what is found</h2>
          <table className="evidence">
            <thead>
              <tr>
                <th scope="col">Finding</th>
                <th scope="col">With this cause alone</th>
                <th scope="col" className="num">
                  grip
                </th>
                <th scope="col">Source</th>
              </tr>
            </thead>
            <tbody>
              {c.evidence.map((e) => (
                <tr key={e.finding + e.says}>
                  <th scope="row">{words.findingLabel(e.finding)}</th>
                  <td>{e.says}</td>
                  <td className="num">{e.grip.toFixed(2)}</td>
                  <td className="faint">{e.source}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
    </main>
  )
}
