import { useState } from 'react'
import { Button } from 'antd'
import { Link, useParams } from 'react-router'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, queryClient, useBench, useMe, useRecovery, useVisit, useWords, type Words } from '../api/queries'
import { percent, show, showDate } from '../format'
import { CameBack } from '../recovery/Ending'
import { useScales } from '../scales/useScales'
import { Busy, Problem } from '../Shell'
import { VisitHead } from '../visit/VisitHead'
import { Choices } from './Choices'
import { read } from './order'
import { BudgetPart } from './Budget'
import { HowMuch } from './HowMuch'
import { Jobs, notBought, useZoneJobs } from './Jobs'
import { Schools } from './Schools'
import './plan.css'

type Line = Schemas['ActionLine']

const parts = [
  { part: 'now', verdict: 'do-now', head: 'Do now', say: 'In this order.' },
  { part: 'check', verdict: 'check-first', head: 'Check first', say: 'One check decides.' },
  { part: 'wait', verdict: 'hold', head: 'Wait', say: 'Right, but not yet.' },
  { part: 'later', verdict: 'schedule', head: 'Later', say: 'In its season.' },
] as const

const grades: Record<string, string> = { A: 'replicated trials', B: 'extension consensus', C: "practitioners' experience" }

interface Context {
  visit: string
  zone: string
  me: Schemas['Me']
  words: Words
  spray?: Schemas['SprayAhead']
  sums: Schemas['Sum'][]
}

function whenOf(a: Line, form: Schemas['Me']['date_form']): string {
  if (a.from) return `${showDate(a.from, form)}${a.to && a.to !== a.from ? ` to ${showDate(a.to, form)}` : ''}`
  if (a.until) return `until ${showDate(a.until, form)}`
  return a.until_what ? `until ${a.until_what}` : ''
}

/** The hours of the days ahead that are fit to spray, by the forecast. */
function SprayHours({ spray, form }: { spray: Schemas['SprayAhead']; form: Schemas['Me']['date_form'] }) {
  if (spray.hours.length === 0)
    return (
      <p>
        <b>Spray</b> no hour up to {showDate(spray.to, form, true)} is fit by the forecast: wait for one.
      </p>
    )
  return (
    <p data-spray-hours={spray.hours.length}>
      <b>Spray</b> fit by the forecast: {spray.hours.map((h) => `${showDate(h.date, form, true)} ${h.from}–${h.to} h`).join(', ')}.
    </p>
  )
}

/** One job of the plan: what, when and why in sight; how much, what it brings and the cautions under it. */
function Action({ a, place, at }: { a: Line; place: number; at: Context }) {
  const { visit, zone, me, words } = at
  const action = words.action.get(a.id)
  const [open, setOpen] = useState(a.verdict === 'do-now' && (place <= 3 || !!action?.pesticide)) // its caution stands in sight
  const canRecord = me.rights.includes('record-treatment') && a.verdict === 'do-now' && action?.recorded
  const sum = at.sums.find((x) => x.action === a.id)
  const fields = useBench().data?.find((c) => c.id === sum?.calculation)?.fields ?? []
  const licensed = me.rights.includes('record-pesticide') || !action?.pesticide
  return (
    <li className="action" data-action={a.id} data-verdict={a.verdict}>
      <button type="button" className="action-head" aria-expanded={open} onClick={() => setOpen(!open)}>
        <b>
          {a.verdict === 'do-now' && <span className="num place">{place}</span>} {a.label}
        </b>
        <span className="num action-when">{whenOf(a, me.date_form)}</span>
        {a.extra && <span className="action-extra">{notBought}</span>}
        <span className="action-why">
          {a.reasons[0]}
          {a.verdict === 'check-first' && a.check && (
            <>
              : <b>{a.check.map((f) => words.findingLabel(f).toLowerCase()).join(', ')}</b>
            </>
          )}
        </span>
      </button>
      {open && (
        <div className="action-more">
          {a.reasons.length > 1 && (
            <ul>
              {a.reasons.slice(1).map((r) => (
                <li key={r}>{r}</li>
              ))}
            </ul>
          )}
          {a.check && (
            <p>
              Check:{' '}
              {a.check.map((f) => (
                <Link key={f} className="check-link" to={`/visits/${visit}/${zone}?check=${f}`}>
                  {words.findingLabel(f)}
                </Link>
              ))}
            </p>
          )}
          {a.dose && (
            <p>
              <b>How</b> {a.dose}
            </p>
          )}
          {sum && <HowMuch sum={sum} fields={fields} me={me} />}
          {a.will && (
            <p>
              <b>Brings</b> {a.will}
              {a.will_not && (
                <>
                  ; <span className="faint">{a.will_not}</span>
                </>
              )}
            </p>
          )}
          {a.if_wrong && (
            <p>
              <b>If wrong</b> {a.if_wrong}
            </p>
          )}
          {a.verdict === 'do-now' && action?.airborne && at.spray && <SprayHours spray={at.spray} form={me.date_form} />}
          {a.cautions.map((c) => (
            <p key={c} className="caution">
              {c}
            </p>
          ))}
          <p className="faint">
            Evidence {a.grade}: {grades[a.grade]}
            {a.looks_after_days?.length ? `. Follow up after ${a.looks_after_days.join(', ')} days` : ''}
            {a.price && a.area_m2 ? `. About ${a.price.toFixed(0)} ${me.currency} for ${show(a.area_m2, 'm2', me.unit_system)}` : ''}
            {a.gate_kind && a.verdict !== 'do-now' ? `. Held by ${a.gate_kind}` : ''}
          </p>
          {canRecord &&
            (licensed ? (
              <Link className="record-link" data-record={a.id} to={`/visits/${visit}/${zone}/record?action=${a.id}`}>
                Record it
              </Link>
            ) : (
              <p>
                <b>A licensed applicator records this.</b>
              </p>
            ))}
        </div>
      )}
    </li>
  )
}

/** What not to do: a line each for what somebody may be tempted to, and the names of what nothing calls for. */
function Leave({ leave, idle }: { leave: Line[]; idle: Line[] }) {
  const [open, setOpen] = useState(false)
  return (
    <section data-part="avoid" aria-label="Don't do" className="leave">
      <h2>
        Don’t do <small className="num faint">{leave.length}</small>
      </h2>
      <ul>
        {leave.map((a) => (
          <li key={a.id} data-action={a.id} data-verdict="avoid">
            <b>{a.label}</b> <span className="faint">{a.reasons[0]}</span>
          </li>
        ))}
      </ul>
      <button type="button" className="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
        {open ? 'Hide' : 'Show'} the {idle.length} that nothing found calls for
      </button>
      {open && <p className="idle">{idle.map((a) => a.label).join(' · ')}</p>}
    </section>
  )
}

export default function Plan() {
  const { visit = '', zone = '' } = useParams()
  const me = useMe().data
  const words = useWords()
  const detail = useVisit(visit)
  const scales = useScales(visit, zone)
  const jobs = useZoneJobs(visit, zone)
  const give = useMutation({
    mutationFn: () =>
      got(api.POST('/visits/{id}/zones/{zone}/diagnoses', { params: { path: { id: visit, zone } }, body: { id: newId() } })),
    onSuccess: () =>
      Promise.all(
        [
          ['visit', visit],
          ['recovery', zone],
        ].map((queryKey) => queryClient.invalidateQueries({ queryKey })),
      ),
  })
  const ending = useRecovery(zone).data?.ending
  if (detail.isLoadingError || scales.isLoadingError) return <Problem error={detail.error ?? scales.error} />
  if (!detail.data || !scales.data || !me || !words) return <Busy what="the plan" />
  const d = scales.data.now.diagnosis
  const plan = read(d.actions)
  const lead = d.causes.filter((c, i) => i === 0 || c.probability >= 0.3).slice(0, 3)
  const given = detail.data.given.filter((g) => g.zone_id === zone).at(-1)
  const at = { visit, zone, me, words, spray: scales.data.now.spray, sums: jobs.data?.sums ?? [] }
  const extra = new Set(d.actions.filter((a) => a.extra).map((a) => a.id))
  return (
    <div className="plan-page">
      <VisitHead detail={detail.data} me={me} zone={zone} view="plan" />
      <main>
        <section className="verdict-line">
          <p>
            {lead.map((c, i) => (
              <span key={c.id}>
                {i > 0 && ', and '}
                <b>{words.cause.get(c.id)?.label}</b> at <b className="num">{percent(c.probability)} %</b>
              </span>
            ))}
            {d.settled ? '. No further check would change the decision.' : '. A check may still change the decision.'}
          </p>
          <div className="verdict-do">
            {given ? (
              <span className="faint">
                saved on {showDate(given.given_on, me.date_form)}: {words.cause.get(given.leading)?.label}{' '}
                <b className="num">{percent(given.probability)} %</b>, knowledge {given.knowledge}
              </span>
            ) : (
              me.rights.includes('answer-checks') && (
                <Button type="primary" loading={give.isPending} onClick={() => give.mutate()}>
                  Save this diagnosis
                </Button>
              )
            )}
            <a className="export" href={`/api/v1/visits/${visit}/zones/${zone}/case`} download>
              Case file
            </a>
          </div>
          {give.isError && <Problem error={give.error} />}
          <p className="plan-told">
            <span className="faint">To the client</span> {d.told}
          </p>
        </section>
        {ending && (
          <CameBack
            ending={{ ...ending, again: ending.again.filter((a) => lead.some((c) => c.id === a.cause)) }}
            words={words}
            form={me.date_form}
            currency={me.currency}
          />
        )}
        <Jobs visit={visit} zone={zone} site={detail.data.site.id} me={me} extra={extra} />
        <BudgetPart visit={visit} zone={zone} me={me} />
        <Choices choices={d.choices} currency={me.currency} />
        <div className="verdicts">
          {parts.map((p) => {
            const lines = plan[p.part]
            if (lines.length === 0) return null
            return (
              <section key={p.verdict} data-part={p.verdict} aria-label={p.head}>
                <h2>
                  {p.head} <small className="num faint">{lines.length}</small>
                </h2>
                <p className="faint">{p.say}</p>
                <ul>
                  {lines.map((a, i) => (
                    <Action key={a.id + a.verdict} a={a} place={i + 1} at={at} />
                  ))}
                </ul>
              </section>
            )
          })}
          <Leave leave={plan.leave} idle={plan.idle} />
        </div>
        <Schools schools={jobs.data?.schools ?? []} />
        <p className="faint foot">Hodos advises a trained person. The product label, local rules and licensed practice come first.</p>
      </main>
    </div>
  )
}
