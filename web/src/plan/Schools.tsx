import { useState } from 'react'
import { Button, Input } from 'antd'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh } from '../api/queries'
import { showDate } from '../format'
import { Problem } from '../Shell'
import { Day } from '../ui/Field'

/** Where practitioners disagree, for this lawn: both sides, what the plan does, and which side the lawn is on. */
export function Schools({ schools }: { schools: Schemas['School'][] }) {
  const [open, setOpen] = useState(false)
  if (schools.length === 0) return null
  return (
    <section className="schools" aria-label="Where practitioners disagree">
      <h2>
        <button type="button" className="quiet budget-open" aria-expanded={open} onClick={() => setOpen(!open)}>
          Where practitioners disagree <small className="num faint">{schools.length}</small> {open ? '▴' : '▾'}
        </button>
      </h2>
      {open && (
        <ul>
          {schools.map((s) => (
            <li key={s.id} data-school={s.id} data-side={s.side}>
              <b>{s.question}</b>
              <span data-chosen={s.side === 'a'}>One side: {s.a}.</span>
              <span data-chosen={s.side === 'b'}>The other: {s.b}.</span>
              <span className="faint">
                Here: {s.does}.{s.decides && ' The client’s wish on the zone decides it.'}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

/** What the client has coming up: jobs are counted back from it. */
export function Events({ site, events, me }: { site: string; events: Schemas['Event'][]; me: Schemas['Me'] }) {
  const [open, setOpen] = useState(false)
  const [day, setDay] = useState('')
  const [name, setName] = useState('')
  const [key, setKey] = useState(newId)
  const refresh = useRefresh()
  const keep = useMutation({
    mutationFn: (e: { id: string; day: string; name: string; off?: boolean }) =>
      got(
        api.PUT('/sites/{id}/events/{event}', {
          params: { path: { id: site, event: e.id } },
          body: { day: e.day, name: e.name, ...(e.off && { off: true }) },
        }),
      ),
    onSuccess: () => {
      setOpen(false)
      setKey(newId())
      void refresh()
    },
  })
  const may = me.rights.includes('book-visits')
  return (
    <div className="events">
      {events.map((e) => (
        <p key={e.id} data-event={e.id}>
          <b className="num">{showDate(e.day, me.date_form, true)}</b> {e.name}{' '}
          {may && (
            <Button size="small" onClick={() => keep.mutate({ ...e, off: true })}>
              Take off
            </Button>
          )}
        </p>
      ))}
      {keep.isError && <Problem error={keep.error} />}
      {may && !open && (
        <button type="button" className="quiet" onClick={() => setOpen(true)}>
          The client has something coming up
        </button>
      )}
      {open && (
        <form
          className="event-form"
          aria-label="Event of the client"
          onSubmit={(e) => {
            e.preventDefault()
            keep.mutate({ id: key, day, name })
          }}
        >
          <Day label="On" required value={day} form={me.date_form} min={me.today} onChange={setDay} />
          <label className="field">
            <span>What</span>
            <Input required aria-label="What is coming up" value={name} onChange={(e) => setName(e.target.value)} />
          </label>
          <Button htmlType="submit" type="primary" loading={keep.isPending}>
            Count back from it
          </Button>
          <Button onClick={() => setOpen(false)}>Cancel</Button>
        </form>
      )}
    </div>
  )
}
