import { useQuery } from '@tanstack/react-query'
import { Link, useNavigate, useParams } from 'react-router'
import { api, got } from '../api/client'
import { useCause, useWords } from '../api/queries'
import { ApartTable } from '../scales/Apart'
import { FamilyMark } from '../scales/Family'
import { Busy, Problem } from '../Shell'
import { Year } from './CausePage'
import { Signature } from './Signature'
import './causes.css'

/** Two causes side by side: what they show, and the checks that tell them apart on any lawn. */
export default function Beside() {
  const { cause = '', other = '' } = useParams()
  const navigate = useNavigate()
  const words = useWords()
  const a = useCause(cause)
  const b = useCause(other)
  const checks = useQuery({
    queryKey: ['compare', cause, other],
    queryFn: () => got(api.GET('/causes/{id}/apart/{other}', { params: { path: { id: cause, other } } })),
  })
  if (a.isLoadingError || b.isLoadingError || checks.isLoadingError) return <Problem error={a.error ?? b.error ?? checks.error} />
  if (!a.data || !b.data || !checks.data || !words) return <Busy what="the two causes" />
  const all = words.raw.causes.filter((c) => c.id !== 'healthy-turf').sort((x, y) => x.label.localeCompare(y.label))
  const pick = (value: string, label: string, go: (id: string) => string) => (
    <label className="beside-pick">
      <span className="unseen">{label}</span>
      <select className="plain" value={value} onChange={(e) => void navigate(go(e.target.value))}>
        {all.map((c) => (
          <option key={c.id} value={c.id}>
            {c.label}
          </option>
        ))}
      </select>
    </label>
  )
  return (
    <main className="cause">
      <p>
        <Link className="back" to="/causes">
          All causes
        </Link>
      </p>
      <div className="beside-two">
        {[a.data, b.data].map((c, i) => (
          <section key={c.id} aria-label={c.label}>
            <h1>
              <FamilyMark family={c.family} />{' '}
              {pick(c.id, i === 0 ? 'First cause' : 'Second cause', (id) =>
                i === 0 ? `/causes/${id}/beside/${other}` : `/causes/${cause}/beside/${id}`,
              )}
            </h1>
            <Signature page={c} words={words} />
            <dl>
              <dt>Signature</dt>
              <dd>{c.signature}</dd>
              <dt>When</dt>
              <dd>{c.when}</dd>
              <dt data-kind="for">Proof</dt>
              <dd>{c.proof}</dd>
            </dl>
          </section>
        ))}
      </div>
      <section>
        <h2>What tells them apart</h2>
        <p className="faint">
          How often each answer is given where the one or the other is at work alone; the most telling for its minutes first.
        </p>
        {checks.data.length > 0 ? (
          <ApartTable checks={checks.data} a={cause} b={other} words={words} />
        ) : (
          <p className="empty">They never share a grass, or no on-site check separates them.</p>
        )}
      </section>
      <div className="beside-two">
        {[a.data, b.data].map((c) => (
          <section key={c.id} aria-label={`${c.label} through the year`}>
            <Year months={c.months} south={c.south} />
          </section>
        ))}
      </div>
    </main>
  )
}
