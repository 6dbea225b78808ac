import { Link, useParams } from 'react-router'
import { useMe, useRecovery, useSiteOfZone, useWords } from '../api/queries'
import { Busy, Problem } from '../Shell'
import { Beside } from '../photo/Beside'
import { Trials } from '../trials/Trials'
import { Course, VerdictBox } from './Course'
import { ZoneThread } from './Thread'
import { Done } from './VisitRecovery'
import './recovery.css'

/** The course of a zone outside a visit. */
export default function ZoneRecovery() {
  const { zone = '' } = useParams()
  const me = useMe().data
  const words = useWords()
  const site = useSiteOfZone(zone)
  const recovery = useRecovery(zone)
  if (recovery.isLoadingError || site.isLoadingError) return <Problem error={recovery.error ?? site.error} />
  if (!recovery.data || !me || !words || !site.data) return <Busy what="the recovery" />
  const r = recovery.data
  return (
    <div className="recovery-page">
      <header className="visit-head">
        <div className="visit-place">
          <h1>{site.data.name}</h1>
          <span className="faint">{site.data.zones?.find((z) => z.id === zone)?.name}</span>
        </div>
        <div className="views">
          <Link to={`/sites/${site.data.id}`}>The site</Link>
          {r.follow_up && <Link to={`/visits/${r.follow_up.id}/${zone}/recovery`}>Open the follow-up</Link>}
        </div>
      </header>
      <main>
        <div>
          <VerdictBox r={r} form={me.date_form} today={me.today} />
          {r.started ? (
            <Course r={r} today={me.today} form={me.date_form} />
          ) : (
            <p className="empty">Nothing has been measured in this zone yet.</p>
          )}
          <ZoneThread zone={zone} words={words} form={me.date_form} />
          <Beside key={zone} zone={zone} form={me.date_form} />
          <Trials zone={zone} me={me} />
        </div>
        <Done
          r={r}
          form={me.date_form}
          label={(id) => words.action.get(id)?.label ?? id}
          cause={(id) => words.cause.get(id)?.label ?? id}
        />
      </main>
    </div>
  )
}
