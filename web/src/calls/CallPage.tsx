import { useState } from 'react'
import { Button } from 'antd'
import { Link, useParams } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useCall, useMe, useRefresh, useWords, type Words } from '../api/queries'
import { addDays, percent, showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { Day } from '../ui/Field'
import { becauseSaid, withinDays, withinSaid } from './words'
import './calls.css'

/** Pictures as the client sent them, one large at a time. */
export function CallPictures({ call }: { call: Pick<Schemas['Call'], 'id' | 'pictures'> }) {
  const [at, setAt] = useState(1)
  if (call.pictures === 0) return <p className="faint">The client sent no pictures.</p>
  const places = Array.from({ length: call.pictures }, (_, i) => i + 1)
  return (
    <figure className="call-pictures">
      <img src={`/api/v1/calls/${call.id}/pictures/${at}`} alt={`Picture ${at} of ${call.pictures}, by the client`} />
      {call.pictures > 1 && (
        <figcaption className="answers">
          {places.map((p) => (
            <button key={p} type="button" className="answer" aria-pressed={p === at} onClick={() => setAt(p)} aria-label={`Picture ${p}`}>
              <img src={`/api/v1/calls/${call.id}/pictures/${p}?small=true`} alt="" />
            </button>
          ))}
        </figcaption>
      )}
    </figure>
  )
}

/** What can be told of it from afar, and what cannot. */
function FromAfar({ detail, words }: { detail: Schemas['CallDetail']; words: Words }) {
  const label = (id: string) => words.cause.get(id)?.label ?? id
  return (
    <section aria-label="What can be told from afar">
      <h2>From afar</h2>
      {detail.likely.length > 0 ? (
        <ul className="call-likely">
          {detail.likely.map((l) => (
            <li key={l.cause}>
              <Link to={`/causes/${l.cause}`}>{label(l.cause)}</Link> <span className="num">{percent(l.p)} %</span>
            </li>
          ))}
        </ul>
      ) : (
        <p>Nothing stands out.</p>
      )}
      {detail.open.length > 0 && (
        <p>
          Only a visit can settle this: <b>{detail.open.map((o) => words.findingLabel(o.finding).toLowerCase()).join(', ')}</b>.
        </p>
      )}
      <p className="call-warn">This is no diagnosis. Nothing is treated from a picture alone: check it on site first.</p>
    </section>
  )
}

function Book({ call, me }: { call: Schemas['Call']; me: Schemas['Me'] }) {
  const refresh = useRefresh()
  const [due, setDue] = useState(addDays(me.today, withinDays[call.within]))
  const [ids] = useState(newId)
  const book = useMutation({
    mutationFn: async () => {
      await got(
        api.POST('/visits', {
          body: {
            id: ids,
            site_id: call.site_id,
            kind: 'diagnosis',
            due_on: due,
            reason: (call.note || `The client tells of ${call.zone_name}`).slice(0, 300),
            version: 0,
          },
        }),
      )
      return got(api.PUT('/calls/{id}/visit', { params: { path: { id: call.id } }, body: { visit_id: ids } }))
    },
    onSuccess: refresh,
  })
  const aside = useMutation({
    mutationFn: () => got(api.POST('/calls/{id}/aside', { params: { path: { id: call.id } } })),
    onSuccess: refresh,
  })
  return (
    <section className="form" aria-label="Visit">
      <h2>{call.visit_id ? 'The visit' : 'Book a visit'}</h2>
      {call.visit_id && (
        <p>
          <Link to={`/visits/${call.visit_id}/${call.zone_id}`}>Booked for {showDate(call.visit_on ?? '', me.date_form, true)}</Link>
          {call.late && <b className="call-late"> That is later than it should be.</b>}
        </p>
      )}
      {(!call.visit_id || call.late) && me.rights.includes('book-visits') && (
        <>
          <Day label="On" value={due} onChange={setDue} form={me.date_form} />
          {book.isError && <Problem error={book.error} />}
          <Button type="primary" loading={book.isPending} disabled={due === ''} onClick={() => book.mutate()}>
            {call.visit_id ? 'Book an earlier visit' : 'Book the visit'}
          </Button>
        </>
      )}
      {!call.visit_id && !call.aside && me.rights.includes('book-visits') && (
        <Button loading={aside.isPending} onClick={() => aside.mutate()}>
          No visit needed
        </Button>
      )}
      {call.aside && <p>Put aside: no visit needed.</p>}
      {aside.isError && <Problem error={aside.error} />}
    </section>
  )
}

/** One call: what the client told and showed, how soon somebody has to come, and the visit. */
export default function CallPage() {
  const { call: id = '' } = useParams()
  const me = useMe().data
  const words = useWords()
  const call = useCall(id)
  if (call.isLoadingError) return <Problem error={call.error} />
  if (!call.data || !me || !words) return <Busy what="the call" />
  const c = call.data.call
  const why = becauseSaid(c.because, (x) => words.cause.get(x)?.label ?? x)
  return (
    <main className="call-page two-columns">
      <header>
        <h1>
          {c.site_name}, {c.zone_name}
        </h1>
        <p className="faint">
          {c.client_name} told us on {showDate(c.told_on, me.date_form)}
          {c.phone && (
            <>
              {' '}
              <a href={`tel:${c.phone}`}>{c.phone}</a>
            </>
          )}
        </p>
        <p className="call-verdict" data-within={c.within}>
          <b>{withinSaid[c.within]}.</b> {why && `${why}. `}
          {c.per_day >= 0.5 && `Each day of waiting could cost about ${Math.round(c.per_day)} ${me.currency}.`}
        </p>
      </header>
      <div>
        <CallPictures key={c.id} call={c} />
        <section aria-label="What the client says">
          <h2>What the client says</h2>
          {c.note && <blockquote>{c.note}</blockquote>}
          <dl className="call-said">
            {c.said.map((s) => (
              <div key={s.finding}>
                <dt>{s.asked}</dt>
                <dd>{s.said.join(', ')}</dd>
              </div>
            ))}
          </dl>
        </section>
      </div>
      <div>
        <Book key={`${c.id}${c.visit_id ?? ''}`} call={c} me={me} />
        <FromAfar detail={call.data} words={words} />
      </div>
    </main>
  )
}
