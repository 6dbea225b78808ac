import { Button } from 'antd'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, useRefresh, zoneJobsQuery } from '../api/queries'
import { show, showDate } from '../format'
import { Problem } from '../Shell'
import { Events } from './Schools'

type Job = Schemas['Job']

/** The jobs of a zone's plan, asked once for the page. */
export const useZoneJobs = (visit: string, zone: string) => useQuery(zoneJobsQuery(visit, zone))

/** Books jobs with one press; the keys are made once for each job, so that pressing twice books once. */
export function useBook(visit: string, zone: string) {
  const refresh = useRefresh()
  return useMutation({
    mutationFn: (jobs: Job[]) =>
      got(
        api.POST('/visits/{id}/zones/{zone}/jobs', {
          params: { path: { id: visit, zone } },
          body: { jobs: jobs.map((j) => ({ id: newId(), action: j.action, step: j.step })) },
        }),
      ),
    onSuccess: refresh,
  })
}

const amount = (j: Job, sys: Schemas['Me']['unit_system']): string => {
  if (!j.amount) return ''
  const big = j.amount >= 1000
  const unit = j.amount_unit === 'mL' ? (big ? 'L' : 'mL') : big ? 'kg' : 'g'
  return show(big ? j.amount / 1000 : j.amount, unit, sys, 2)
}

function Line({ j, me, extra }: { j: Job; me: Schemas['Me']; extra: boolean }) {
  return (
    <>
      <b className="num">{j.due_on ? showDate(j.due_on, me.date_form, true) : 'no open day'}</b>
      <span>
        <b>{j.label}</b>
        {j.step > 1 && <span className="faint"> again</span>}
        {j.product && (
          <span className="faint num">
            {' '}
            {amount(j, me.unit_system)} {j.product}
          </span>
        )}
        <br />
        <span className="faint num">
          window {showDate(j.from_on, me.date_form)} to {showDate(j.to_on, me.date_form)}
          {j.wait >= 0.05 && `, a day of waiting costs ${j.wait.toFixed(2)} ${me.currency}`}
        </span>
        {extra && j.state !== 'booked' && <span className="action-extra"> {notBought}</span>}
        {j.moved && <span className="faint">, {j.moved}</span>}
        {j.blocks?.slice(0, 3).map((b) => (
          <span key={b.constraint} className="stopped block" data-block={b.constraint}>
            {b.text} closes {b.days} {b.days === 1 ? 'day' : 'days'} of it
            {b.without &&
              `; without it ${showDate(b.without, me.date_form)}${b.cost >= 0.05 ? `, at ${b.cost.toFixed(2)} ${me.currency}` : ''}`}
            {b.firm && ' (nobody passes it)'}
          </span>
        ))}
      </span>
    </>
  )
}

/** What is said of work that lies outside the service that the client buys. */
export const notBought = 'not in the service they buy: offer it first'

/** The plan with dates: what it asks for and what is booked, in the order of days. extra are actions that the client has not bought: they are
 * booked one by one. */
export function Jobs({
  visit,
  zone,
  site,
  me,
  extra,
}: {
  visit: string
  zone: string
  site: string
  me: Schemas['Me']
  extra: ReadonlySet<string>
}) {
  const jobs = useZoneJobs(visit, zone)
  const book = useBook(visit, zone)
  const may = me.rights.includes('book-visits')
  if (jobs.isLoadingError) return <Problem error={jobs.error} />
  if (!jobs.data) return <p className="faint">Finding dates …</p>
  const { proposed, booked } = jobs.data
  const open = proposed.filter((j) => j.due_on && !extra.has(j.action))
  return (
    <section className="jobs" aria-label="Dates">
      <h2>
        Dates{' '}
        {may && open.length > 1 && (
          <Button type="primary" loading={book.isPending} onClick={() => book.mutate(open)} data-book="all">
            Book all {open.length}
          </Button>
        )}
      </h2>
      {book.isError && <Problem error={book.error} />}
      {proposed.length + booked.length === 0 && <p className="faint">The plan asks for no work that has a date.</p>}
      <ol>
        {[...booked, ...proposed]
          .sort((a, b) => (a.due_on ?? '9').localeCompare(b.due_on ?? '9'))
          .map((j) => (
            <li key={`${j.action}-${j.step}-${j.state}`} data-job={j.action} data-state={j.state}>
              <Line j={j} me={me} extra={extra.has(j.action)} />
              {j.state === 'booked' ? (
                <span className="open">booked</span>
              ) : (
                may &&
                j.due_on && (
                  <Button loading={book.isPending} onClick={() => book.mutate([j])} data-book={j.action}>
                    Book
                  </Button>
                )
              )}
            </li>
          ))}
      </ol>
      <Events site={site} events={jobs.data.events} me={me} />
    </section>
  )
}
