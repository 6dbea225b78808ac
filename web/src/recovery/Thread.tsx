import { useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import type { Words } from '../api/queries'
import { percent, showDate } from '../format'

type Form = Schemas['Me']['date_form']

const strength = (bits: number): string => {
  const a = Math.abs(bits)
  return a >= 3 ? 'decisive' : a >= 1.5 ? 'strong' : a >= 0.6 ? 'fair' : 'slight'
}

/** What a treatment came to, in one line. */
export function responseSaid(r: Schemas['Response'], words: Words, form: Form): string {
  const share = (x: number) => `${percent(x)} %`
  const two: Record<Schemas['Response']['by'], string> = {
    count: `${words.findingLabel(r.count)}: ${words.valueLabel(r.count, r.before)} before, ${words.valueLabel(r.count, r.now)} now`,
    area: `${share(r.before)} of it affected before, ${share(r.now)} now`,
    cover: `${share(r.before)} green before, ${share(r.now)} now`,
    colour: r.word === 'better' ? 'Its colour has come back' : 'As pale as before',
    index: r.word === 'better' ? 'Greener in the pictures' : 'No greener in the pictures',
    spread: 'It has spread since',
  }
  const action = words.action.get(r.action)?.label ?? r.action
  return `${action}, ${showDate(r.on, form)}: ${r.word === 'better' ? 'it helped' : 'it did not help'}. ${two[r.by]}.`
}

function Reason({ reason, lead, words }: { reason: Schemas['TurnReason']; lead: string; words: Words }) {
  const value = (v: unknown) => words.valueLabel(reason.finding.split(':')[0] ?? '', v)
  const has = (v: unknown) => v !== undefined && v !== null
  const change =
    has(reason.was) && has(reason.is)
      ? value(reason.was) === value(reason.is)
        ? value(reason.is)
        : `${value(reason.was)}, now ${value(reason.is)}`
      : has(reason.is)
        ? value(reason.is)
        : `${value(reason.was)}, not looked at again`
  return (
    <li data-toward={reason.bits > 0}>
      {words.findingLabel(reason.finding)}: <b>{change}</b>{' '}
      <span className="faint">
        {strength(reason.bits)}, {reason.bits > 0 ? `toward ${lead}` : `away from ${lead}`}
      </span>
    </li>
  )
}

function turnSaid(o: Schemas['Opinion'], cause: (id: string) => string): string {
  const t = o.turn
  if (!t) return ''
  if (t.before) return `Before, it was taken for ${cause(t.before).toLowerCase()}, which is down to ${percent(t.left)} %.`
  const by = Math.round(t.now * 100) - Math.round(t.then * 100)
  if (by === 0) return 'As sure as before.'
  return by > 0 ? `Surer than before: it was ${percent(t.then)} %.` : `Less sure than before: it was ${percent(t.then)} %.`
}

function One({ o, words, form }: { o: Schemas['Opinion']; words: Words; form: Form }) {
  const cause = (id: string) => words.cause.get(id)?.label ?? id
  return (
    <li data-turned={!!o.turn?.before}>
      <p className="thought">
        <span className="num">{showDate(o.on, form)}</span> <b>{cause(o.leading)}</b>{' '}
        <span className="num">{percent(o.probability)} %</span>
        {o.open && <span className="faint"> as the scales stand</span>}
      </p>
      {o.turn && <p>{turnSaid(o, cause)}</p>}
      {o.responses.map((r) => (
        <p key={r.finding} className="response" data-word={r.word}>
          {responseSaid(r, words, form)}
        </p>
      ))}
      {o.turn && o.turn.reasons.length > 0 && (
        <ul aria-label="What moved it">
          {o.turn.reasons.map((r) => (
            <Reason key={r.finding} reason={r} lead={cause(o.leading).toLowerCase()} words={words} />
          ))}
        </ul>
      )}
    </li>
  )
}

/** What was thought of a zone when, the newest first, and why it changed. */
export function Thread({ list, words, form }: { list: Schemas['Opinion'][]; words: Words; form: Form }) {
  if (list.length === 0) return null
  return (
    <section className="thread" aria-label="What was thought when">
      <h2>What was thought when, and why it changed</h2>
      <ol reversed>
        {[...list].reverse().map((o) => (
          <One key={o.visit_id} o={o} words={words} form={form} />
        ))}
      </ol>
    </section>
  )
}

export const useOpinions = (zone: string, visit?: string) =>
  useQuery({
    queryKey: ['opinions', zone, visit ?? ''],
    queryFn: () => got(api.GET('/zones/{id}/opinions', { params: { path: { id: zone }, query: visit ? { visit } : {} } })),
    enabled: zone !== '',
    staleTime: 0,
  })

/** The same, fetched: it has nothing to show until it is there. */
export function ZoneThread({ zone, visit, words, form }: { zone: string; visit?: string; words: Words; form: Form }) {
  const list = useOpinions(zone, visit).data?.opinions ?? []
  return <Thread list={list} words={words} form={form} />
}
