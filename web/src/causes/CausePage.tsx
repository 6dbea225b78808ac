import { Link, useParams } from 'react-router'
import { useCause, useSites, useWords } from '../api/queries'
import { percent } from '../format'
import { FamilyMark, familyLabels } from '../scales/Family'
import { Busy, Problem } from '../Shell'
import './causes.css'

const letters = 'J F M A M J J A S O N D'.split(' ')

export default function CausePage() {
  const { cause = '' } = useParams()
  const words = useWords()
  const sites = useSites()
  const latitude = sites.data?.[0]?.latitude ?? 38
  const page = useCause(cause, latitude)
  if (page.isError) return <Problem error={page.error} />
  if (!page.data || !words) return <Busy what="the page" />
  const c = page.data
  return (
    <main className="cause">
      <p><Link to="/causes">All causes</Link></p>
      <h1><FamilyMark family={c.family} /> {c.label} <small className="faint">{familyLabels[c.family]}{c.turf === 'C' ? ', cool-season grasses' : c.turf === 'W' ? ', warm-season grasses' : ''}</small></h1>
      <div className="cause-grid">
        <dl>
          <dt>Signature</dt><dd>{c.signature}</dd>
          <dt>When</dt><dd>{c.when}</dd>
          <dt data-kind="for">Proof</dt><dd>{c.proof}</dd>
          <dt data-kind="against">Against</dt><dd>{c.against}</dd>
          <dt>Mistaken for</dt><dd>{c.mistaken.length ? c.mistaken.map((m) => <Link key={m} className="look-alike" to={`/causes/${m}`}><FamilyMark family={words.cause.get(m)?.family ?? ''} /> {words.cause.get(m)?.label}</Link>) : 'nothing else'}</dd>
          <dt>Acting pays</dt><dd>from <b className="num">{percent(c.act_above)} %</b> (judgement)</dd>
        </dl>
        {c.months.length > 0 && (
          <figure>
            <figcaption>Through the year {latitude < 0 ? '(south)' : '(north)'}</figcaption>
            <svg viewBox="0 0 360 130" role="img" aria-label={`By month, 0 to 9: ${c.months.join(' ')}`}>
              {c.months.map((m, i) => <g key={i}><rect className="year-bar" x={i * 30 + 3} y={100 - m * 10} width="24" height={Math.max(1, m * 10)} /><text x={i * 30 + 15} y="120" textAnchor="middle">{letters[i]}</text></g>)}
            </svg>
          </figure>
        )}
      </div>
      {c.evidence.length > 0 && (
        <section>
          <h2>How it weighs what is found</h2>
          <table className="evidence">
            <thead><tr><th scope="col">Finding</th><th scope="col">With this cause alone</th><th scope="col" className="num">grip</th><th scope="col">Source</th></tr></thead>
            <tbody>{c.evidence.map((e) => <tr key={e.finding + e.says}><th scope="row">{words.findingLabel(e.finding)}</th><td>{e.says}</td><td className="num">{e.grip.toFixed(2)}</td><td className="faint">{e.source}</td></tr>)}</tbody>
          </table>
        </section>
      )}
    </main>
  )
}
