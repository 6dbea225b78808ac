import { useState } from 'react'
import { Button } from 'antd'
import { Link, useParams } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, queryClient, useMe, useVisit, useWords } from '../api/queries'
import { percent, showDate } from '../format'
import { useScales } from '../scales/useScales'
import { Busy, Problem } from '../Shell'
import { VisitHead } from '../visit/VisitHead'
import './plan.css'

const parts = [
  { verdict: 'do-now', head: 'Do now', say: 'The evidence carries it and no gate stands against it.' },
  { verdict: 'check-first', head: 'Check first', say: 'One check decides.' },
  { verdict: 'hold', head: 'Wait', say: 'Right in principle, wrong now.' },
  { verdict: 'schedule', head: 'Later', say: 'Right, in its own season.' },
  { verdict: 'avoid', head: 'Leave', say: 'Would do harm or nothing here.' },
] as const

const grades: Record<string, string> = { A: 'replicated trials', B: 'extension consensus', C: "practitioners' experience" }

/** Said aloud to the client rather than recorded. */
const said = ['hold-nitrogen', 'leave-alone', 'wait-and-recheck']

function Action({ a, visit, zone, form, canRecord, licensed }: { a: Schemas['ActionLine']; visit: string; zone: string; form: Schemas['Me']['date_form']; canRecord: boolean; licensed: boolean }) {
  const words = useWords()
  const [open, setOpen] = useState(a.verdict === 'do-now')
  const when = a.from ? `${showDate(a.from, form)}${a.to && a.to !== a.from ? ` to ${showDate(a.to, form)}` : ''}` : a.until ? `until ${showDate(a.until, form)}` : a.until_what ? `until ${a.until_what}` : ''
  return (
    <li className="action" data-action={a.id} data-verdict={a.verdict}>
      <button type="button" className="action-head" aria-expanded={open} onClick={() => setOpen(!open)}>
        <b>{a.label}</b>
        {when && <span className="num action-when">{when}</span>}
        <span className="action-why">{a.reasons[0]}</span>
      </button>
      {open && (
        <div className="action-more">
          {a.reasons.length > 1 && <ul>{a.reasons.slice(1).map((r) => <li key={r}>{r}</li>)}</ul>}
          {a.check && <p>Check: {a.check.map((f) => <Link key={f} to={`/visits/${visit}/${zone}`}>{words?.findingLabel(f)}</Link>)}</p>}
          {a.cautions.map((c) => <p key={c} className="caution">{c}</p>)}
          <p className="faint">Evidence {a.grade}: {grades[a.grade]}{a.look_after_days ? `. Look again after ${a.look_after_days} days` : ''}</p>
          {a.verdict === 'do-now' && canRecord && words?.action.get(a.id)?.pesticide && !licensed && <p><b>A licensed applicator records this.</b></p>}
          {a.verdict === 'do-now' && canRecord && !said.includes(a.id) && (licensed || !words?.action.get(a.id)?.pesticide) && <Link className="record-link" data-record={a.id} to={`/visits/${visit}/${zone}/record?action=${a.id}`}>Record it</Link>}
        </div>
      )}
    </li>
  )
}

export default function Plan() {
  const { visit = '', zone = '' } = useParams()
  const me = useMe().data
  const words = useWords()
  const detail = useVisit(visit)
  const scales = useScales(visit, zone)
  const give = useMutation({
    mutationFn: () => got(api.POST('/visits/{id}/zones/{zone}/diagnoses', { params: { path: { id: visit, zone } }, body: { id: newId() } })),
    onSuccess: () => queryClient.invalidateQueries({ queryKey: ['visit', visit] }),
  })
  if (detail.isError || scales.isError) return <Problem error={detail.error ?? scales.error} />
  if (!detail.data || !scales.data || !me || !words) return <Busy what="the plan" />
  const d = scales.data.now.diagnosis
  const lead = d.causes.filter((c, i) => i === 0 || c.probability >= 0.3).slice(0, 3)
  const given = detail.data.given.filter((g) => g.zone_id === zone).at(-1)
  const canRecord = me.rights.includes('record-treatment')
  return (
    <div className="plan-page">
      <VisitHead detail={detail.data} me={me} zone={zone} view="plan" />
      <main>
        <section className="verdict-line">
          <p>
            {lead.map((c, i) => <span key={c.id}>{i > 0 && ', and '}<b>{words.cause.get(c.id)?.label}</b> at <b className="num">{percent(c.probability)} %</b></span>)}
            {d.settled ? '. No further check can change a decision.' : '. A check may still change a decision.'}
          </p>
          <div className="verdict-do">
            {given ? <span className="faint">given on {showDate(given.given_on, me.date_form)}: {words.cause.get(given.leading)?.label} <b className="num">{percent(given.probability)} %</b>, knowledge {given.knowledge}</span>
              : me.rights.includes('answer-checks') && <Button type="primary" loading={give.isPending} onClick={() => give.mutate()}>Give this diagnosis</Button>}
            <a className="export" href={`/api/v1/visits/${visit}/zones/${zone}/case`} download>Case file</a>
          </div>
          {give.isError && <Problem error={give.error} />}
          <p className="told"><span className="faint">To the client</span> {d.told}</p>
        </section>
        <div className="verdicts">
          {parts.map((p) => {
            const all = d.actions.filter((a) => a.verdict === p.verdict)
            const idle = all.filter((a) => p.verdict === 'avoid' && !a.causes?.length && /^(nothing found calls|less will do|nothing is shown|mowing has not|not a grass|the lawn is not resting|none, or too)/.test(a.reasons[0] ?? ''))
            const own = all.filter((a) => !idle.includes(a))
            if (all.length === 0) return null
            return (
              <section key={p.verdict} data-part={p.verdict} aria-label={p.head}>
                <h2>{p.head} <small className="num faint">{all.length}</small></h2>
                <p className="faint">{p.say}</p>
                <ul>{own.map((a) => <Action key={a.id + a.verdict} a={a} visit={visit} zone={zone} form={me.date_form} canRecord={canRecord} licensed={me.rights.includes('record-pesticide')} />)}</ul>
                {idle.length > 0 && <p className="idle">Nothing found calls for: {idle.map((a) => a.label.toLowerCase()).join(', ')}.</p>}
              </section>
            )
          })}
        </div>
        <p className="faint foot">Hodos advises a trained person. The product label, local rules and licensed practice come first.</p>
      </main>
    </div>
  )
}
