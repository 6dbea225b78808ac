import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { useCalls, useWords, type Words } from '../api/queries'
import { showDate } from '../format'
import { becauseSaid, withinSaid } from './words'
import './calls.css'

function Row({ call, me, words }: { call: Schemas['Call']; me: Schemas['Me']; words: Words }) {
  const why = becauseSaid(call.because, (id) => words.cause.get(id)?.label ?? id)
  return (
    <li>
      <Link to={`/calls/${call.id}`} data-call={call.id} data-within={call.within} data-late={call.late}>
        {call.pictures > 0 && <img src={`/api/v1/calls/${call.id}/pictures/1?small=true`} alt="" loading="lazy" />}
        <span className="call-what">
          <b className="call-within">{withinSaid[call.within]}:</b>{' '}
          <b>
            {call.site_name}, {call.zone_name}
          </b>
          <span className="call-why">{why || call.note}</span>
          <span className="faint">
            Told {showDate(call.told_on, me.date_form)}
            {call.visit_on
              ? `; ${call.late ? 'the visit comes late' : 'a visit is booked'}: ${showDate(call.visit_on, me.date_form, true)}`
              : '; no visit is booked'}
          </span>
        </span>
      </Link>
    </li>
  )
}

/** What clients told and nobody has gone to yet, the most urgent first. */
export function Calls({ me }: { me: Schemas['Me'] }) {
  const calls = useCalls().data ?? []
  const words = useWords()
  if (calls.length === 0 || !words) return null
  return (
    <section className="calls" aria-label="From clients">
      <h2>From clients</h2>
      <ol>
        {calls.map((c) => (
          <Row key={c.id} call={c} me={me} words={words} />
        ))}
      </ol>
    </section>
  )
}
