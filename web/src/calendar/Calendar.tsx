import { useEffect, useMemo, useState } from 'react'
import { Button, Input } from 'antd'
import { Link } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, followLines, got, type Schemas } from '../api/client'
import { newId, useMe, useRefresh } from '../api/queries'
import { daysBetween, showDate } from '../format'
import { SitePick } from '../sites/SitePick'
import { Busy, Problem } from '../Shell'
import { Day } from '../ui/Field'
import { later, weeks } from './weeks'
import './calendar.css'

type Job = Schemas['Job']
type Me = Schemas['Me']

/** Moves a job by a day with the arrow keys or to a date; says at once what the day would break. */
function Move({ job, me, onDone }: { job: Job; me: Me; onDone: () => void }) {
  const [day, setDay] = useState(job.due_on ?? me.today)
  const [reason, setReason] = useState('')
  const refresh = useRefresh()
  const broken = useQuery({
    queryKey: ['move', job.id, day],
    queryFn: () => got(api.GET('/jobs/{id}/move', { params: { path: { id: job.id }, query: { day } } })),
  })
  const change = useMutation({
    mutationFn: (body: { due_on?: string; state?: 'dropped'; reason?: string }) =>
      got(api.PUT('/jobs/{id}', { params: { path: { id: job.id } }, body: { ...body, version: job.version } })),
    onSuccess: () => {
      void refresh()
      onDone()
    },
  })
  const firm = broken.data?.some((b) => b.firm)
  return (
    <form
      className="move"
      aria-label={`Move ${job.label}`}
      onSubmit={(e) => {
        e.preventDefault()
        change.mutate({ due_on: day, reason })
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') onDone()
        const step = { ArrowLeft: -1, ArrowRight: 1, PageUp: -7, PageDown: 7 }[e.key]
        if (step === undefined || !e.altKey) return
        e.preventDefault()
        setDay(later(day, step))
      }}
    >
      <div className="move-days">
        <Button onClick={() => setDay(later(day, -1))} aria-label="A day earlier">
          ‹
        </Button>
        <Day label="On" value={day} form={me.date_form} onChange={setDay} />
        <Button onClick={() => setDay(later(day, 1))} aria-label="A day later">
          ›
        </Button>
      </div>
      <p className="faint">
        {showDate(day, me.date_form, true)}. Window {showDate(job.from_on, me.date_form)} to {showDate(job.to_on, me.date_form)}. Keys: Alt
        and an arrow.
      </p>
      {broken.data?.length === 0 && <p className="open">Nothing stands against this day.</p>}
      {broken.data?.map((b) => (
        <p key={b.constraint} className="caution" data-breaks={b.constraint}>
          {b.firm ? 'Closed by ' : 'Breaks '}
          {b.text}.
        </p>
      ))}
      {broken.data && broken.data.length > 0 && !firm && (
        <label className="field">
          <span>Why all the same</span>
          <Input aria-label="Why all the same" value={reason} onChange={(e) => setReason(e.target.value)} />
        </label>
      )}
      {change.isError && <Problem error={change.error} />}
      <p className="buttons">
        <Button type="primary" htmlType="submit" disabled={firm === true} loading={change.isPending}>
          Put it there
        </Button>
        <Button danger onClick={() => change.mutate({ state: 'dropped' })}>
          Drop it
        </Button>
        <Button onClick={onDone}>Cancel</Button>
      </p>
    </form>
  )
}

function Row({ job, me, open, onOpen }: { job: Job; me: Me; open: boolean; onOpen: (id: string) => void }) {
  const closes = daysBetween(me.today, job.to_on)
  const late = (job.due_on ?? '') < me.today
  return (
    <li data-job={job.id} data-late={late}>
      <div className="job-line">
        <span className="job-what">
          <b>{job.label}</b>
          {job.step > 1 && <span className="faint"> again</span>}
          <br />
          <span className="faint">
            {job.site_name}, {job.zone_name}
          </span>
        </span>
        <span className="job-why">
          {job.product && <span>{job.product}. </span>}
          {job.moved ? <b>{job.moved}</b> : job.reason}
        </span>
        <span className="num job-costs">
          {closes < 0 ? (
            <b className="stopped">window closed</b>
          ) : closes <= 7 ? (
            <b className="soon">closes in {closes} days</b>
          ) : (
            `open ${closes} days`
          )}
          <br />
          <span className="faint">
            {job.wait >= 0.05 ? `waiting costs ${job.wait.toFixed(2)} ${me.currency} a day` : 'no hurry'}, {Math.round(job.minutes)} min of
            work
          </span>
        </span>
        <span className="job-do">
          {job.visit_id && (
            <Link className="export" to={`/visits/${job.visit_id}/${job.zone_id}/record?action=${job.action}&job=${job.id}`}>
              Record
            </Link>
          )}
          {me.rights.includes('book-visits') && (
            <Button aria-expanded={open} onClick={() => onOpen(open ? '' : job.id)}>
              Move
            </Button>
          )}
        </span>
      </div>
      {open && <Move job={job} me={me} onDone={() => onOpen('')} />}
    </li>
  )
}

/** A secret address for a calendar program; it is told once. */
function Feeds() {
  const refresh = useRefresh()
  const feeds = useQuery({ queryKey: ['feeds'], queryFn: () => got(api.GET('/feeds')) })
  const make = useMutation({ mutationFn: () => got(api.POST('/feeds', { body: { id: newId() } })), onSuccess: refresh })
  const end = useMutation({
    mutationFn: (id: string) => got(api.DELETE('/feeds/{id}', { params: { path: { id } } })),
    onSuccess: refresh,
  })
  const address = make.data?.path ? location.origin + make.data.path : ''
  return (
    <section className="feeds" aria-label="Calendar on your own devices">
      <h2>On your own devices</h2>
      <p className="faint">A secret address feeds your calendar. Whoever has it sees the jobs; withdraw it when it is lost.</p>
      {address && (
        <p role="status">
          Copy it now; it is shown only once:
          <br />
          <code className="link-once">{address}</code>{' '}
          <Button size="small" onClick={() => void navigator.clipboard.writeText(address)}>
            Copy
          </Button>
        </p>
      )}
      {(make.error ?? end.error) && <Problem error={make.error ?? end.error} />}
      <ul className="feed-list">
        {feeds.data?.map((f) => (
          <li key={f.id}>
            made on {f.created_at.slice(0, 10)} {f.site_name && `for ${f.site_name}`}{' '}
            <Button size="small" onClick={() => end.mutate(f.id)}>
              Withdraw
            </Button>
          </li>
        ))}
      </ul>
      <Button loading={make.isPending} onClick={() => make.mutate()}>
        Make an address
      </Button>
    </section>
  )
}

const weekName = (name: string, form: Me['date_form']): string =>
  ({ late: 'Late', this: 'This week', next: 'Next week' })[name] ?? `Week of ${showDate(name, form)}`

type ReplanLine = Schemas['ReplanLine']

/** Plans anew, and keeps how far that is. */
function useReplan(site: string) {
  const refresh = useRefresh()
  const [line, setLine] = useState<ReplanLine>()
  const ask = useMutation({
    mutationFn: async () => {
      const last = await followLines<ReplanLine>('/jobs/replan', site ? { site_id: site } : {}, setLine)
      if (!last.result) throw new Error(last.error ?? 'The connection ended before it was finished. Nothing was moved.')
      return last.result
    },
    onSuccess: refresh,
    onSettled: () => setLine(undefined),
  })
  return { ...ask, line }
}

const steps: Record<ReplanLine['step'], string> = {
  days: 'Looking at the open days',
  dates: 'Finding dates',
  written: 'Moving what has to move',
}

/** How far planning anew is, and what came of it. */
function Replanned({ again }: { again: ReturnType<typeof useReplan> }) {
  if (again.isError) return <Problem error={again.error} />
  if (again.line)
    return (
      <p className="plan-told" role="status">
        {steps[again.line.step]} <progress value={again.line.done} max={Math.max(1, again.line.of)} />{' '}
        <span className="num faint">of {again.line.of} jobs</span>
      </p>
    )
  const out = again.data
  if (!out) return null
  return (
    <p className="plan-told" role="status" data-replanned={out.jobs}>
      {out.jobs} jobs looked at, {out.moved.length === 0 ? 'all stay where they are' : `${out.moved.length} moved`}
      {out.stuck.length > 0 && `. Without an open day: ${out.stuck.map((j) => `${j.label} (${j.blocks?.[0]?.text ?? ''})`).join(', ')}`}.
    </p>
  )
}

/** What is booked, week by week, the costliest to wait for first within a day. */
export default function Calendar() {
  const me = useMe().data
  const [site, setSite] = useState('')
  const [open, setOpen] = useState('')
  const jobs = useQuery({
    queryKey: ['jobs', site],
    queryFn: () => got(api.GET('/jobs', { params: { query: site ? { site_id: site } : {} } })),
  })
  const again = useReplan(site)
  const list = useMemo(() => weeks(jobs.data?.jobs ?? [], me?.today ?? ''), [jobs.data, me?.today])
  useEffect(() => {
    if (open) document.querySelector<HTMLElement>('.move input')?.focus()
  }, [open])
  if (jobs.isLoadingError) return <Problem error={jobs.error} />
  if (!jobs.data || !me) return <Busy what="the calendar" />
  const query = site ? `?site_id=${site}` : ''
  return (
    <main className="calendar">
      <div className="calendar-head">
        <h1>Calendar</h1>
        <SitePick value={site} none="all sites" onChange={setSite} />
        {me.rights.includes('book-visits') && (
          <Button loading={again.isPending} onClick={() => again.mutate()} data-replan>
            Plan again
          </Button>
        )}
        <Link className="export" to="/review">
          Season review
        </Link>
        <span className="calendar-files">
          <a className="export" href={`/api/v1/jobs/pdf${query}`} download>
            Year plan
          </a>
          <a className="export" href={`/api/v1/jobs/csv${query}`} download>
            Table
          </a>
          <a className="export" href={`/api/v1/jobs/ics${query}`} download>
            Calendar file
          </a>
        </span>
      </div>
      <Replanned again={again} />
      {list.length === 0 && <p className="empty">Nothing is booked. Jobs are booked from the plan of a zone, with one press.</p>}
      {list.map((w) => (
        <section key={w.name} aria-label={weekName(w.name, me.date_form)}>
          <h2>
            {weekName(w.name, me.date_form)}{' '}
            <small className="faint num">
              {w.jobs.length} {w.jobs.length === 1 ? 'job' : 'jobs'}, {(w.minutes / 60).toFixed(1)} h
            </small>
          </h2>
          {w.days.map((d) => (
            <div key={d.day} className="calendar-day">
              <h3 className="num">{showDate(d.day, me.date_form, true)}</h3>
              <ul>
                {d.jobs.map((j) => (
                  <Row key={j.id} job={j} me={me} open={open === j.id} onOpen={setOpen} />
                ))}
              </ul>
            </div>
          ))}
        </section>
      ))}
      {jobs.data.more && <p className="faint">There are more: choose a site.</p>}
      <Feeds />
    </main>
  )
}
