import { useState } from 'react'
import { Button } from 'antd'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useMe, useRefresh } from '../api/queries'
import { showDate, type DateForm } from '../format'
import { Busy, Problem } from '../Shell'
import { Pick, Text } from '../ui/Field'
import './messages.css'

type Draft = Schemas['Draft']

/** Those whom a draft would reach and who were not told of it lately. */
export const toTell = (d: Draft): string[] => d.recipients.filter((r) => r.email !== '' && !r.told_on).map((r) => r.client_id)

const kindSaid: Record<Draft['kind'], string> = { hot: 'Heat', wet: 'Rain', frost: 'First frost', dry: 'Dry spell', visit: 'Tomorrow' }

function Recipients({
  d,
  chosen,
  form,
  onChoose,
}: {
  d: Draft
  chosen: Set<string>
  form: DateForm
  onChoose: (id: string, on: boolean) => void
}) {
  return (
    <ul className="recipients">
      {d.recipients.map((r) => (
        <li key={r.client_id}>
          <label className="tick-box">
            <input
              type="checkbox"
              checked={chosen.has(r.client_id)}
              disabled={r.email === ''}
              onChange={(e) => onChoose(r.client_id, e.target.checked)}
            />{' '}
            {r.name} <span className="faint">{r.email || 'no email address'}</span>
            {r.told_on && <span className="faint">, told {showDate(r.told_on, form)}</span>}
          </label>
        </li>
      ))}
    </ul>
  )
}

function One({ d, mail, may, form }: { d: Draft; mail: boolean; may: boolean; form: DateForm }) {
  const refresh = useRefresh()
  const [subject, setSubject] = useState(d.subject)
  const [text, setText] = useState(d.text)
  const [chosen, setChosen] = useState(() => new Set(toTell(d)))
  const [id, setId] = useState(newId)
  const choose = (client: string, on: boolean) =>
    setChosen((now) => {
      const next = new Set(now)
      if (on) next.add(client)
      else next.delete(client)
      return next
    })
  const send = useMutation({
    mutationFn: () => {
      const clients = [...chosen].slice(0, 100)
      return got(
        api.POST('/messages', {
          body: { id, kind: d.kind, subject, text, clients, ...(d.visit_id ? { visit_id: d.visit_id } : {}) },
        }),
      )
    },
    onSuccess: async (sent) => {
      if (sent.failed.length > 0) return
      setId(newId())
      setChosen(new Set())
      await refresh()
    },
  })
  const span = d.from === d.to ? showDate(d.from, form, true) : `${showDate(d.from, form)} to ${showDate(d.to, form)}`
  return (
    <article className="draft" data-draft={d.key} data-kind={d.kind}>
      <h2>
        {kindSaid[d.kind]}, <span className="num">{span}</span> <small className="faint">{d.for}</small>
      </h2>
      <div className="draft-columns">
        <div>
          <Text label="Subject" value={subject} disabled={!may} onChange={setSubject} />
          <label className="field">
            <span>Text</span>
            <textarea
              rows={Math.min(14, text.split('\n').length + 2)}
              maxLength={4000}
              value={text}
              disabled={!may}
              onChange={(e) => setText(e.target.value)}
            />
            <small className="faint">“Hello” and the name go before it, your firm’s name and telephone after it.</small>
          </label>
        </div>
        <div>
          <Recipients d={d} chosen={chosen} form={form} onChoose={choose} />
          {send.isError && <Problem error={send.error} />}
          {send.data && (
            <p role="status">
              Sent to {send.data.sent}.
              {send.data.failed.length > 0 && ` It did not reach ${send.data.failed.join(', ')}. Press again to try once more.`}
            </p>
          )}
          {may && mail && (
            <Button
              type="primary"
              loading={send.isPending}
              disabled={chosen.size === 0 || text.trim().length < 10}
              onClick={() => send.mutate()}
            >
              {chosen.size > 100 ? 'Send to the first 100' : chosen.size < 2 ? 'Send' : `Send to ${chosen.size}`}
            </Button>
          )}
        </div>
      </div>
    </article>
  )
}

/** What clients could be told now: weather that is coming, visits of tomorrow. The office reads it and sends it. */
export default function Messages() {
  const me = useMe().data
  const [station, setStation] = useState('')
  const list = useQuery({
    queryKey: ['messages', station],
    queryFn: () => got(api.GET('/messages', { params: { query: station ? { station_id: station } : {} } })),
    staleTime: 0,
  })
  if (list.isLoadingError) return <Problem error={list.error} />
  if (!list.data || !me) return <Busy what="the drafts" />
  const m = list.data
  const may = me.rights.includes('keep-sites')
  return (
    <main className="messages">
      <h1>Letters to clients</h1>
      <p>Drafts of what could be told now. Nothing goes out before somebody presses Send.</p>
      {!m.mail && <p className="notice">This server sends no mail. Copy a text and send it yourself.</p>}
      {m.stations.length > 1 && (
        <Pick
          label="Weather at"
          value={station || (m.station_id ?? '')}
          onChange={setStation}
          options={m.stations.map((s) => [s.id, `${s.name}, ${s.sites} ${s.sites === 1 ? 'site' : 'sites'}`] as const)}
        />
      )}
      {m.station_id && !m.known && <p className="notice">There is no forecast for this station at the moment.</p>}
      {m.drafts.length === 0 && <p className="empty">No visit tomorrow, and no weather that clients should be told of.</p>}
      {m.drafts.map((d) => (
        <One key={d.key} d={d} mail={m.mail} may={may} form={me.date_form} />
      ))}
    </main>
  )
}
