import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { api, got } from '../api/client'
import { useMe, useWords } from '../api/queries'
import { show, showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { kindLabel } from './useSamples'
import './samples.css'

/** The sheet that goes with a sample: printed as it stands, without the client's name. */
export default function SampleForm() {
  const { sample = '' } = useParams()
  const me = useMe().data
  const words = useWords()
  const form = useQuery({
    queryKey: ['sample-form', sample],
    queryFn: () => got(api.GET('/samples/{id}/form', { params: { path: { id: sample } } })),
  })
  if (form.isLoadingError) return <Problem error={form.error} />
  if (!form.data || !words || !me) return <Busy what="the form" />
  const f = form.data
  return (
    <main className="sheet">
      <p className="no-print">
        <Link to={`/visits/${f.sample.visit_id}/${f.sample.zone_id}`}>Back to the visit</Link>{' '}
        <button type="button" className="plain-button" onClick={() => print()}>
          Print
        </button>
      </p>
      <header>
        <h1>
          {kindLabel[f.sample.kind]} sample <span className="num">{f.sample.number}</span>
        </h1>
        <p>{f.firm}</p>
      </header>
      <dl>
        <div>
          <dt>Taken</dt>
          <dd>
            {showDate(f.sample.taken_on, me.date_form)} by {f.sample.taken_by}, {f.sample.cores} {f.sample.cores === 1 ? 'plug' : 'cores'}
            {f.sample.depth_mm > 0 && `, ${Math.round(f.sample.depth_mm)} mm deep`}
          </dd>
        </div>
        <div>
          <dt>From</dt>
          <dd>
            {f.sample.zone_name}, {show(f.area_m2, 'm2', words.system)}
            {f.texture && `, ${words.valueLabel('texture', f.texture)}`}
          </dd>
        </div>
        <div>
          <dt>Grass</dt>
          <dd>{f.grasses.map((g) => words.species.get(g)?.label ?? g).join(', ')}</dd>
        </div>
        {f.sample.note && (
          <div>
            <dt>Note</dt>
            <dd>{f.sample.note}</dd>
          </div>
        )}
        <div>
          <dt>Asked for</dt>
          <dd>{f.wanted.map((w) => words.findingLabel(w)).join(', ')}</dd>
        </div>
        <div>
          <dt>Suspected</dt>
          <dd>{f.suspected.join('; ') || 'nothing yet'}</dd>
        </div>
        <div>
          <dt>Found on the spot</dt>
          <dd>{f.findings.join('; ') || 'nothing noted'}</dd>
        </div>
      </dl>
      <h2>Packing</h2>
      <ul>
        {f.handling.map((h) => (
          <li key={h}>{h}</li>
        ))}
      </ul>
      <h2>Answer</h2>
      <p>
        As a file, one line a figure: <code>sample,finding,value,unit,laboratory</code>, with <code>{f.sample.number}</code> and{' '}
        {f.wanted.map((w, i) => (
          <span key={w}>
            {i > 0 && ', '}
            <code>{w}</code>
          </span>
        ))}
        .
      </p>
    </main>
  )
}
