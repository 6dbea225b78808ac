import { useState } from 'react'
import { Button } from 'antd'
import { Link, useParams } from 'react-router'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useMe } from '../api/queries'
import { showDate, type DateForm } from '../format'
import { Busy, Problem } from '../Shell'
import { Letter } from './Letter'

const spans = [
  { days: 30, label: 'a month' },
  { days: 90, label: 'three months' },
  { days: 366, label: 'a year' },
]

/** What a client would see, and the links under which they see it. */
export default function ClientView() {
  const { site = '' } = useParams()
  const me = useMe().data
  const page = useQuery({
    queryKey: ['client-page', site],
    queryFn: () => got(api.GET('/sites/{id}/client-page', { params: { path: { id: site } } })),
  })
  if (page.isLoadingError) return <Problem error={page.error} />
  if (!page.data || !me) return <Busy what="the client's page" />
  return (
    <main className="client-view">
      <Letter page={page.data} picture={(id) => `/api/v1/photos/${id}/picture`} />
      <aside>
        <p>
          <Link to={`/sites/${site}`}>Back to {page.data.site}</Link>
        </p>
        <a className="export" href={`/api/v1/sites/${site}/client-page/pdf`}>
          Save as PDF
        </a>
        <Links site={site} form={me.date_form} may={me.rights.includes('keep-sites')} />
      </aside>
    </main>
  )
}

const linksKey = (site: string) => ['client-links', site]

function Links({ site, form, may }: { site: string; form: DateForm; may: boolean }) {
  const client = useQueryClient()
  const [days, setDays] = useState(90)
  const [send, setSend] = useState(false)
  const list = useQuery({
    queryKey: linksKey(site),
    queryFn: () => got(api.GET('/sites/{id}/links', { params: { path: { id: site } } })),
  })
  const anew = () => client.invalidateQueries({ queryKey: linksKey(site) })
  const make = useMutation({
    mutationFn: (by: { email: boolean }) =>
      got(api.POST('/sites/{id}/links', { params: { path: { id: site } }, body: { id: newId(), days, send: by.email } })),
    onSuccess: anew,
  })
  const withdraw = useMutation({
    mutationFn: (id: string) => got(api.DELETE('/links/{id}', { params: { path: { id } } })),
    onSuccess: () => {
      make.reset()
      return anew()
    },
  })
  return (
    <section aria-label="Links">
      <h2>Links for the client</h2>
      {may && (
        <form
          onSubmit={(e) => {
            e.preventDefault()
            make.mutate({ email: send })
          }}
        >
          <label className="field">
            <span>Valid for</span>
            <select value={days} onChange={(e) => setDays(Number(e.target.value))} aria-label="Valid for">
              {spans.map((s) => (
                <option key={s.days} value={s.days}>
                  {s.label}
                </option>
              ))}
            </select>
          </label>
          <label className="tick-box">
            <input type="checkbox" checked={send} onChange={(e) => setSend(e.target.checked)} /> Send it to the client by email
          </label>
          <Button htmlType="submit" type="primary" loading={make.isPending}>
            Make a link
          </Button>
        </form>
      )}
      {make.isError && <Problem error={make.error} />}
      {make.data?.path && <Made address={location.origin + make.data.path} sent={make.data.sent ?? false} wanted={make.variables.email} />}
      <ul className="link-list">
        {list.data?.map((l) => (
          <LinkRow key={l.id} l={l} form={form} may={may} onWithdraw={() => withdraw.mutate(l.id)} />
        ))}
      </ul>
      {list.data?.length === 0 && <p className="faint">None yet.</p>}
      {withdraw.isError && <Problem error={withdraw.error} />}
    </section>
  )
}

/** A link that was just made: it is shown once. */
function Made({ address, sent, wanted }: { address: string; sent: boolean; wanted: boolean }) {
  const [copied, setCopied] = useState(false)
  return (
    <div className="link-made" role="status">
      <p>
        {sent
          ? 'Sent to the client. Shown here once.'
          : `${wanted ? 'The email did not go out. ' : ''}Shown once. Copy it now and send it to the client.`}
      </p>
      <input readOnly value={address} aria-label="The link" onFocus={(e) => e.target.select()} />
      <Button onClick={() => void navigator.clipboard.writeText(address).then(() => setCopied(true))}>{copied ? 'Copied' : 'Copy'}</Button>
    </div>
  )
}

function LinkRow({ l, form, may, onWithdraw }: { l: Schemas['ClientLink']; form: DateForm; may: boolean; onWithdraw: () => void }) {
  const day = (t: string) => showDate(t.slice(0, 10), form)
  const open = !l.withdrawn && !l.expired
  return (
    <li data-open={open}>
      {l.withdrawn ? 'Withdrawn' : l.expired ? `Ran out on ${day(l.expires_at)}` : `Open until ${day(l.expires_at)}`}
      <span className="faint">
        made by {l.made_by} on {day(l.created_at)}
        {l.opened_at ? `; opened ${l.opened === 1 ? 'once' : `${l.opened} times`}, last on ${day(l.opened_at)}` : '; not opened yet'}
      </span>
      {may && open && (
        <Button danger onClick={onWithdraw}>
          Withdraw
        </Button>
      )}
    </li>
  )
}
