import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { useMe } from '../api/queries'
import { show, showDate } from '../format'
import { SitePick } from '../sites/SitePick'
import { Busy, Problem } from '../Shell'
import { Day, Pick } from '../ui/Field'
import './record.css'

const kinds = [
  ['', 'everything'],
  ['pesticide', 'with a licence'],
  ['fertilizer', 'feedings'],
] as const

function Entry({ e, me }: { e: Schemas['Entry']; me: Schemas['Me'] }) {
  const r = e.record
  const sys = me.unit_system
  const state = r.voided ? 'void' : e.replaced ? 'corrected since' : r.corrects_id ? 'correction' : ''
  return (
    <tr data-record={r.id} data-void={r.voided || e.replaced}>
      <td className="num">
        {showDate(r.applied_on, me.date_form)}
        {r.started && <br />}
        {r.started}
        {r.ended && r.ended !== r.started && `–${r.ended}`}
      </td>
      <td>
        <b>{e.site_name}</b>, {e.zone_name}
        <br />
        <span className="faint">
          {e.client_name}, {show(r.area_m2, 'm2', sys)}
        </span>
      </td>
      <td>
        {e.label}
        {e.target && <span className="faint">, {e.target.toLowerCase()}</span>}
      </td>
      <td>
        {r.product}
        <br />
        <span className="faint">
          {[e.registration, e.lot && `lot ${e.lot}`, r.amount !== undefined && `${Number(r.amount.toPrecision(4))} ${r.amount_unit}`]
            .filter(Boolean)
            .join(', ')}
        </span>
      </td>
      <td>
        {r.signed_name}
        <br />
        <span className="faint">{[r.licence_number, e.supervisor && `under ${e.supervisor}`].filter(Boolean).join(', ')}</span>
      </td>
      <td>
        {state && <b>{state}</b>}
        {r.flags?.map((f) => (
          <span key={f.id} className="stopped block">
            {f.text}
          </span>
        ))}
        {r.outside_reason && <span className="faint">{r.outside_reason}</span>}
      </td>
    </tr>
  )
}

/** The book of applications of a period, as a page, a file and on paper. */
export default function Book() {
  const me = useMe().data
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [site, setSite] = useState('')
  const [kind, setKind] = useState<'' | 'pesticide' | 'fertilizer'>('')
  const today = me?.today ?? ''
  const span = { from: from || `${today.slice(0, 4)}-01-01`, to: to || today }
  const query = { ...span, ...(site && { site_id: site }), ...(kind && { kind }) }
  const book = useQuery({
    queryKey: ['book', query],
    queryFn: () => got(api.GET('/book', { params: { query } })),
    enabled: today !== '',
  })
  if (!me) return <Busy what="the book" />
  const search = new URLSearchParams(query).toString()
  return (
    <main className="book">
      <h1>Book of applications</h1>
      <div className="book-ask">
        <Day label="From" value={span.from} form={me.date_form} onChange={setFrom} />
        <Day label="To" value={span.to} form={me.date_form} onChange={setTo} />
        <SitePick value={site} none="all sites" onChange={setSite} />
        <Pick label="What" value={kind} onChange={setKind} options={kinds} />
        <span className="calendar-files">
          <a className="export" href={`/api/v1/book/pdf?${search}`} download>
            On paper
          </a>
          <a className="export" href={`/api/v1/book/csv?${search}`} download>
            As a file
          </a>
        </span>
      </div>
      {book.isError && <Problem error={book.error} />}
      {!book.data && !book.isError && <Busy what="the book" />}
      {book.data?.entries.length === 0 && <p className="empty">Nothing was put down in this time.</p>}
      {book.data && book.data.entries.length > 0 && (
        <table className="book-list">
          <thead>
            <tr>
              <th scope="col">When</th>
              <th scope="col">Where</th>
              <th scope="col">What</th>
              <th scope="col">Product</th>
              <th scope="col">By</th>
              <th scope="col">Flags</th>
            </tr>
          </thead>
          <tbody>
            {book.data.entries.map((e) => (
              <Entry key={e.record.id} e={e} me={me} />
            ))}
          </tbody>
        </table>
      )}
      {book.data?.more && <p className="faint">There are more: the files hold all.</p>}
    </main>
  )
}
