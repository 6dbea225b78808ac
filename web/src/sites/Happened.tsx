import { Button } from 'antd'
import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { useHistory, type Words } from '../api/queries'
import { percent, showDate } from '../format'
import { Busy, Problem } from '../Shell'

export function Happened({
  site,
  me,
  words,
  onChange,
}: {
  site: Schemas['Site']
  me: Schemas['Me']
  words: Words
  onChange: (v: Schemas['Visit']) => void
}) {
  const history = useHistory(site.id)
  if (history.isLoadingError) return <Problem error={history.error} />
  if (!history.data) return <Busy what="the history" />
  const zone = (id: string) => site.zones?.find((z) => z.id === id)?.name ?? ''
  const h = history.data
  return (
    <>
      {h.repeat_offenders.map((o) => (
        <p key={o.zone_id + o.cause} className="caution">
          <b>{zone(o.zone_id)}</b>: {words.cause.get(o.cause)?.label.toLowerCase()} {o.times} times within three years. Only the symptom was
          treated, not the cause.
        </p>
      ))}
      <h3>Visits</h3>
      <ul className="visit-list">
        {h.visits.map((v) => {
          const given = h.given.filter((g) => g.visit_id === v.id)
          return (
            <li key={v.id}>
              <Link
                to={
                  v.kind === 'follow-up' && v.zone_id
                    ? `/visits/${v.id}/${v.zone_id}/recovery`
                    : `/visits/${v.id}${v.zone_id ? `/${v.zone_id}` : ''}`
                }
              >
                <b className="num">{showDate(v.due_on, me.date_form)}</b> {v.reason || 'visit'}
              </Link>
              <span className="faint">
                {[
                  v.closed_on ? 'closed' : v.due_on < me.today ? 'overdue' : 'booked',
                  v.person_name,
                  ...given.map((g) => `${zone(g.zone_id)}: ${words.cause.get(g.leading)?.label ?? ''} ${percent(g.probability)} %`),
                ]
                  .filter(Boolean)
                  .join(', ')}
              </span>
              {!v.closed_on && me.rights.includes('book-visits') && (
                <Button size="small" onClick={() => onChange(v)}>
                  Change
                </Button>
              )}
            </li>
          )
        })}
      </ul>
      {h.visits.length === 0 && <p className="faint">No visit yet.</p>}
    </>
  )
}
