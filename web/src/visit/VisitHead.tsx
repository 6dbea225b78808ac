import { Button } from 'antd'
import { Link } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, ownerOf, Refused, type Schemas } from '../api/client'
import { queryClient } from '../api/queries'
import { moments, useMoments } from './moments'

/** Times are kept in UTC and read on the site's own clock. */
const clockTime = (iso: string | undefined, timeZone: string) =>
  iso ? new Date(iso).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', timeZone }) : ''

/** Who and where, the zones, the views of the visit, and the times of arrival and leaving. */
export function VisitHead({
  detail,
  me,
  zone,
  view,
}: {
  detail: Schemas['VisitDetail']
  me: Schemas['Me']
  zone: string
  view: 'visit' | 'sky' | 'plan' | 'record' | 'recovery'
}) {
  const kept = useMoments().filter((m) => m.visit === detail.visit.id)
  const arrived = detail.visit.arrived_at ?? kept.find((m) => m.what === 'arrive')?.at
  const left = detail.visit.left_at ?? kept.find((m) => m.what === 'leave')?.at
  const v = { ...detail.visit, arrived_at: arrived, left_at: left }
  const note = useMutation({
    mutationFn: async (what: 'arrive' | 'leave') => {
      const path = { params: { path: { id: v.id } }, body: {} }
      try {
        await got(what === 'arrive' ? api.POST('/visits/{id}/arrive', path) : api.POST('/visits/{id}/leave', path))
      } catch (e) {
        if (e instanceof Refused) throw e
        moments.keep({ owner: ownerOf(me), visit: v.id, what, at: new Date().toISOString() })
      }
    },
    onSuccess: () => queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'visit' || q.queryKey[0] === 'day' }),
  })
  const may = me.rights.includes('answer-checks')
  const views = [
    ['visit', 'Checks', ''],
    ['sky', 'Sky', '/sky'],
    ['plan', 'Plan', '/plan'],
    ['record', 'Record', '/record'],
    ['recovery', 'Recovery', '/recovery'],
  ] as const
  return (
    <section className="visit-head" aria-label="The visit">
      <div className="visit-place">
        <h1>{detail.site.name}</h1>
        <span className="faint">
          {detail.site.client_name}
          {v.reason ? ` · ${v.reason}` : ''}
        </span>
      </div>
      <div className="zones" role="group" aria-label="Zones">
        {(detail.site.zones ?? []).map((z) => (
          <Link
            key={z.id}
            to={`/visits/${v.id}/${z.id}${view === 'visit' ? '' : `/${view}`}`}
            aria-current={z.id === zone ? 'true' : undefined}
          >
            {z.name}
          </Link>
        ))}
      </div>
      <div className="views" role="group" aria-label="Views of the visit">
        {views.map(([id, label, path]) => (
          <Link key={id} to={`/visits/${v.id}/${zone}${path}`} aria-current={id === view ? 'page' : undefined}>
            {label}
          </Link>
        ))}
      </div>
      <div className="times">
        {!v.arrived_at && may && (
          <Button type="primary" loading={note.isPending} onClick={() => note.mutate('arrive')}>
            Arrive
          </Button>
        )}
        {v.arrived_at && !v.left_at && (
          <>
            <span className="num faint">since {clockTime(v.arrived_at, detail.site.timezone)}</span>
            {may && (
              <Button loading={note.isPending} onClick={() => note.mutate('leave')}>
                Leave
              </Button>
            )}
          </>
        )}
        {v.left_at && (
          <span className="num faint">
            {clockTime(v.arrived_at, detail.site.timezone)}–{clockTime(v.left_at, detail.site.timezone)}, closed
          </span>
        )}
        {kept.length > 0 && <span className="faint">kept on this device</span>}
        {note.isError && (
          <span className="problem" role="alert">
            {note.error.message}
          </span>
        )}
      </div>
    </section>
  )
}
