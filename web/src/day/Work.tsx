import { Button } from 'antd'
import { useMutation } from '@tanstack/react-query'
import { Link } from 'react-router'
import { api, got, type Schemas } from '../api/client'
import { useRefresh } from '../api/queries'
import { daysBetween, show, showDate } from '../format'
import { Problem } from '../Shell'

type Me = Schemas['Me']

const span = (minutes: number): string => (minutes >= 60 ? `${Math.floor(minutes / 60)} h ${minutes % 60} min` : `${minutes} min`)

/** Zones that people and pets are kept off, with the time that is left; what has still to be watered in is noted with one press. */
export function ClosedZones({ closed, me }: { closed: Schemas['Closed'][]; me: Me }) {
  const refresh = useRefresh()
  const water = useMutation({
    mutationFn: (record: string) => {
      const now = new Date()
      const at = `${String(now.getHours()).padStart(2, '0')}:${String(now.getMinutes()).padStart(2, '0')}`
      return got(api.POST('/records/{id}/watered-in', { params: { path: { id: record } }, body: { at } }))
    },
    onSuccess: refresh,
  })
  if (closed.length === 0) return null
  return (
    <section className="closed-zones" aria-label="Closed to people and pets">
      <h2>Closed to people and pets</h2>
      {water.isError && <Problem error={water.error} />}
      <ul>
        {closed.map((c) => (
          <li key={c.record_id} data-closed={c.record_id}>
            <b>
              {c.site_name}, {c.zone_name}
            </b>
            <span className="faint">{c.product}</span>
            {c.until ? (
              <span className="num">
                until <b>{c.until.slice(11, 16)}</b>
                {c.until.slice(0, 10) !== me.today && ` on ${showDate(c.until.slice(0, 10), me.date_form)}`}
                {c.minutes !== undefined && <span className="faint">, {span(c.minutes)} left, and until dry</span>}
              </span>
            ) : (
              <span>
                until it is watered in and dry{' '}
                {me.rights.includes('record-treatment') && (
                  <Button size="small" loading={water.isPending} onClick={() => water.mutate(c.record_id)}>
                    Watered in now
                  </Button>
                )}
              </span>
            )}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** Jobs booked for today or late, the costliest to wait for first. */
export function DueJobs({ jobs, me }: { jobs: Schemas['Job'][]; me: Me }) {
  if (jobs.length === 0) return null
  return (
    <section className="due-jobs" aria-label="Jobs for today">
      <h2>
        Jobs for today <small className="num faint">{jobs.length}</small>
      </h2>
      <ul>
        {jobs.slice(0, 8).map((j) => {
          const closes = daysBetween(me.today, j.to_on)
          return (
            <li key={j.id} data-job={j.action}>
              <Link to={j.visit_id ? `/visits/${j.visit_id}/${j.zone_id}/record?action=${j.action}&job=${j.id}` : '/calendar'}>
                <b>{j.label}</b>
                <span className="faint">
                  {j.site_name}, {j.zone_name}
                  {j.product && `, ${j.product}`}
                  {j.amount ? ` ${show(j.amount / 1000, j.amount_unit === 'mL' ? 'L' : 'kg', me.unit_system, 2)}` : ''}
                </span>
              </Link>
              <span className="num">
                {closes < 0 ? (
                  <b className="stopped">window closed</b>
                ) : closes === 0 ? (
                  <b className="soon">last day</b>
                ) : (
                  `${closes} days left`
                )}
              </span>
            </li>
          )
        })}
      </ul>
      {jobs.length > 8 && (
        <p>
          <Link to="/calendar">All {jobs.length} in the calendar</Link>
        </p>
      )}
    </section>
  )
}
