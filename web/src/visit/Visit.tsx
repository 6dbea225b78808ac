import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import type { Schemas } from '../api/client'
import { newId, useMe, useVisit, useWords, type Words } from '../api/queries'
import { Busy, Problem } from '../Shell'
import { percent } from '../format'
import { FamilyMark } from '../scales/Family'
import { Apart } from '../scales/Apart'
import { Ledger } from '../scales/Ledger'
import { Scales } from '../scales/Scales'
import { useScales } from '../scales/useScales'
import { Check, choicesOf, type Answered, type Plain } from './Check'
import { answerAt, typing } from './keys'
import { outbox } from './box'
import { useOutbox } from './outbox'
import { planShare, ZonePlan } from './ZonePlan'
import { inOrder } from '../plan/order'
import { Day } from '../ui/Field'
import { VisitHead } from './VisitHead'
import './visit.css'

const Samples = lazy(() => import('./Samples'))

/** Checks that are made at the bad spot and at the good one; the second is told apart by this ending. */
const compared = ['soil-moisture', 'soil-moisture-vwc']
const healthy = '@healthy'

type Answers = Map<string, Answered>

export default function Visit() {
  const { visit = '', zone: zoneParam = '' } = useParams()
  const navigate = useNavigate()
  const [search] = useSearchParams()
  const me = useMe().data
  const words = useWords()
  const detail = useVisit(visit)
  const zones = useMemo(() => detail.data?.site.zones ?? [], [detail.data])
  const zone = zoneParam || detail.data?.visit.zone_id || zones[0]?.id || ''
  const scales = useScales(visit, zone)
  const box = useOutbox(outbox)
  const [picked, setStation] = useState('')
  const [touched, setActive] = useState('')
  // the plan links to the check that it waits for
  const wanted = search.get('check') ?? ''
  const station = picked || words?.finding.get(wanted)?.station || 'ask'
  const active = touched || (picked ? '' : wanted)
  const [open, setOpen] = useState<string[]>([])

  const answers: Answers = useMemo(() => {
    const out: Answers = new Map()
    const at = (finding: string, spot?: string) => (spot === 'worst' ? finding : finding + healthy)
    for (const a of scales.data?.now.answers ?? []) out.set(at(a.finding, a.spot), { value: a.value as Plain, state: 'saved', by: a.by })
    for (const k of box.waiting)
      if (k.visit === visit && k.zone === zone)
        out.set(at(k.answer.finding, k.answer.spot), { value: (k.answer.value ?? null) as Plain, state: 'here', by: '' })
    // what was refused does not count: the check shows what stands, and says so
    for (const k of box.refused)
      if (k.visit === visit && k.zone === zone)
        out.set(at(k.answer.finding, k.answer.spot), {
          value: null,
          by: '',
          ...out.get(at(k.answer.finding, k.answer.spot)),
          state: 'refused',
        })
    return out
  }, [scales.data, box.waiting, box.refused, visit, zone])

  const may = me?.rights.includes('answer-checks') ?? false
  const seq = scales.data?.now.seq ?? 0
  const answer = useCallback(
    (check: string, value: Plain, entered?: { amount: number; unit: string }) => {
      if (!may) return
      const good = check.endsWith(healthy)
      outbox.put({
        visit,
        zone,
        answer: {
          id: newId(),
          finding: good ? check.slice(0, -healthy.length) : check,
          spot: good ? 'healthy' : 'worst',
          value: value as never,
          base: seq,
          ...(entered ? { entered } : {}),
        },
      })
    },
    [may, visit, zone, seq],
  )

  // what only steers the advice is asked where a line of it waits for the answer
  const asked = useMemo(
    () => new Set(scales.data?.now.diagnosis.actions.flatMap((a) => (a.verdict === 'check-first' ? (a.check ?? []) : [])) ?? []),
    [scales.data],
  )
  const checks = useMemo(
    () =>
      words?.raw.findings
        .filter((f) => f.station === station && f.id !== 'soil-temp-hour' && (!f.steers || asked.has(f.id) || answers.has(f.id)))
        .flatMap((f) =>
          compared.includes(f.id)
            ? [f, { ...f, id: f.id + healthy, label: `${f.label}, healthy spot`, ask: 'Repeat at a healthy spot and compare' }]
            : [f],
        ) ?? [],
    [words, station, asked, answers],
  )
  const current = checks.find((f) => f.id === active) ?? checks[0]
  const next = scales.data?.now.diagnosis.next_checks ?? []
  const decisive = scales.data?.now.diagnosis.decisive_checks ?? []
  const suggestion = decisive[0]?.finding ?? next[0]?.finding

  const goTo = useCallback(
    (finding: string) => {
      const f = words?.finding.get(finding)
      if (!f) return
      setStation(f.station)
      setActive(f.id)
    },
    [words],
  )
  const stations = useMemo(() => words?.raw.stations ?? [], [words])
  const stepStation = useCallback(
    (by: number) => {
      const i = stations.findIndex((s) => s.id === station)
      const to = stations[(i + by + stations.length) % stations.length]
      if (to) {
        setStation(to.id)
        setActive('')
      }
    },
    [stations, station],
  )

  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (e.key === 'Escape') setOpen([])
      if (typing(e.target) || e.ctrlKey || e.metaKey || e.altKey || !current) return
      const i = checks.indexOf(current)
      const choice =
        current.kind === 'number' ? undefined : choicesOf(current, answers.get(current.id)?.value, words?.raw.causes ?? [])[answerAt(e.key)]
      if (e.key === 'j' || e.key === 'ArrowDown') setActive(checks[Math.min(checks.length - 1, i + 1)]?.id ?? '')
      else if (e.key === 'k' || e.key === 'ArrowUp') setActive(checks[Math.max(0, i - 1)]?.id ?? '')
      else if (e.key === ']' || e.key === 'ArrowRight') stepStation(1)
      else if (e.key === '[' || e.key === 'ArrowLeft') stepStation(-1)
      else if (e.key === 'n' && suggestion) goTo(suggestion)
      else if (e.key === 'l') setOpen((o) => (o.length ? [] : [scales.data?.now.diagnosis.causes[0]?.id ?? '']))
      else if (e.key === 'p') void navigate(`/visits/${visit}/${zone}/plan`)
      else if (e.key === 'z') {
        const z = zones[(zones.findIndex((x) => x.id === zone) + 1) % zones.length]
        if (z) void navigate(`/visits/${visit}/${z.id}`)
      } else if (e.key === '0' || e.key === 'Backspace') answer(current.id, null)
      else if (current.kind === 'number' && /^[\d-]$/.test(e.key))
        document.querySelector<HTMLInputElement>(`[data-finding="${current.id}"] .number-field`)?.focus({ preventScroll: true })
      else if (choice) {
        answer(current.id, choice.value)
        if (current.kind !== 'any-of' && current.kind !== 'cause-ids') setActive(checks[Math.min(checks.length - 1, i + 1)]?.id ?? '')
      } else return
      if (!(current.kind === 'number' && /^[\d-]$/.test(e.key))) e.preventDefault()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [answer, answers, checks, current, goTo, navigate, scales.data, stepStation, suggestion, visit, words, zone, zones])

  const opening = open.join()
  useEffect(() => {
    if (opening) document.querySelector('.ledgers')?.scrollIntoView({ block: 'start' })
  }, [opening])

  if (detail.isLoadingError) return <Problem error={detail.error} />
  if (!detail.data || !words || !me) return <Busy what="the visit" />
  const marks = (answers.get('marks')?.value as unknown as number[] | null) ?? []
  const d = scales.data?.now.diagnosis
  const opened = open.map((id) => d?.causes.find((c) => c.id === id)).filter((c) => c !== undefined)

  return (
    <div className="visit">
      <VisitHead detail={detail.data} me={me} zone={zone} view="visit" />
      <nav className="stations" aria-label="Stations of the visit">
        {stations.map((s) => {
          const own = words.raw.findings.filter((f) => f.station === s.id)
          const done = own.filter((f) => answers.has(f.id) && answers.get(f.id)?.value !== null).length
          return (
            <button
              key={s.id}
              type="button"
              data-station={s.id}
              aria-current={s.id === station ? 'step' : undefined}
              onClick={() => {
                setStation(s.id)
                setActive('')
              }}
            >
              <span>{s.label}</span>
              <small className="num">{done || '·'}</small>
            </button>
          )
        })}
        <p className="hint">
          <kbd>[</kbd> <kbd>]</kbd> station
          <br />
          <kbd>j</kbd> <kbd>k</kbd> check
          <br />
          <kbd>1</kbd>… answer, <kbd>0</kbd> clear
          <br />
          <kbd>n</kbd> next worth doing
          <br />
          <kbd>l</kbd> ledger, <kbd>p</kbd> plan
          <br />
          <kbd>z</kbd> other zone
        </p>
      </nav>
      <main className="checks" aria-label="Checks of the station">
        {opened.length > 0 && (
          <div className="ledgers" data-two={opened.length === 2}>
            {opened.map((c) => (
              <Ledger key={c.id} cause={c} words={words} currency={me.currency} onClose={() => setOpen(open.filter((x) => x !== c.id))} />
            ))}
            {opened.length === 2 && opened[0] && opened[1] && opened.every((c) => c.id !== 'healthy-turf') && (
              <Apart
                visit={visit}
                zone={zone}
                a={opened[0].id}
                b={opened[1].id}
                seq={seq}
                words={words}
                onGo={(f) => {
                  setOpen([])
                  goTo(f)
                }}
              />
            )}
            {opened.length === 1 && opened[0]?.id === d?.causes[0]?.id && (
              <Changes
                changes={d?.changes ?? []}
                words={words}
                onGo={(f) => {
                  setOpen([])
                  goTo(f)
                }}
              />
            )}
          </div>
        )}
        <p className="does">
          {stations.find((s) => s.id === station)?.does}
          {station === 'ask' && (
            <span className="onset">
              <Day
                label="First seen"
                form={me.date_form}
                max={me.today}
                disabled={!may}
                value={(answers.get('onset')?.value as string | undefined) ?? ''}
                onChange={(v) => answer('onset', v || null)}
              />
            </span>
          )}
        </p>
        {station === 'walk' && (
          <ZonePlan
            marks={marks}
            disabled={!may}
            onChange={(cells) => {
              answer('marks', cells.length ? (cells as unknown as string[]) : null)
              answer('affected-area-percent', cells.length ? planShare(cells.length) : null)
            }}
          />
        )}
        {station === 'lab' && (
          <Suspense fallback={<Busy what="the samples" />}>
            <Samples visit={visit} zone={zone} me={me} words={words} />
          </Suspense>
        )}
        {checks.map((f) => (
          <Check
            key={`${zone}${f.id}`}
            finding={f}
            caution={words.procedure.get(f.procedure)?.caution ?? ''}
            value={answers.get(f.id)?.value}
            state={answers.get(f.id)?.state}
            by={answers.get(f.id)?.by ?? ''}
            active={f.id === current?.id}
            suggested={f.id === suggestion}
            units={me.unit_system}
            causes={words.raw.causes}
            disabled={!may}
            onActivate={() => setActive(f.id)}
            onAnswer={(v, entered) => answer(f.id, v, entered)}
          />
        ))}
      </main>
      <aside className="beside" aria-label="The scales" aria-live="polite">
        {scales.isError && <Problem error={scales.error} />}
        {!d && !scales.isError && <Busy what="the scales" />}
        {d && (
          <>
            <h2>
              On the scales <small className="faint">line: check first, tick: act</small>
            </h2>
            <Scales
              diagnosis={d}
              before={scales.data?.before}
              words={words}
              selected={open}
              rows={6}
              onSelect={(id) => setOpen((o) => (o.includes(id) ? o.filter((x) => x !== id) : [...o.slice(-1), id]))}
            />
            <NextChecks next={next} decisive={decisive} settled={d.settled} words={words} currency={me.currency} onGo={goTo} />
            <Decided actions={d.actions} words={words} />
            {d.notices
              .filter((n) => words.finding.has(n.about))
              .map((n) => (
                <p key={n.about + n.text} className="notice">
                  <strong>{words.findingLabel(n.about)}</strong> {n.text}
                </p>
              ))}
          </>
        )}
      </aside>
    </div>
  )
}

function NextChecks({
  next,
  decisive,
  settled,
  words,
  currency,
  onGo,
}: {
  currency: string
  next: Schemas['Check'][]
  decisive: Schemas['Wanted'][]
  settled: boolean
  words: Words
  onGo: (finding: string) => void
}) {
  const first = decisive.slice(0, 1)
  // in the order of their worth: what a likely remedy may not go without comes first
  const shown = next
    .filter((n) => (n.days === undefined || n.days === 0 || n.decides) && !first.some((w) => w.finding === n.finding))
    .slice(0, 3 - first.length)
  return (
    <section className="next" aria-label="Next checks">
      <h2>
        Next worth doing <kbd>n</kbd>
      </h2>
      {settled && <p className="settled">No further check would change the decision.</p>}
      {first.map((w) => (
        <button key={w.finding} type="button" className="next-check" data-next={w.finding} onClick={() => onGo(w.finding)}>
          <span className="next-name">{words.findingLabel(w.finding)}</span>
          <span className="num">decides</span>
          <span className="faint">
            {words.action.get(w.action)?.label}: {w.reason}
          </span>
        </button>
      ))}
      {shown.map((n, i) => {
        const proc = words.procedure.get(n.procedure)
        return (
          <button key={n.procedure} type="button" className="next-check" data-next={n.finding} onClick={() => onGo(n.finding)}>
            <span className="next-name">{words.findingLabel(n.finding)}</span>
            <span className="num">
              {n.worth >= 1 ? `worth ${Math.round(n.worth)} ${currency}, ` : ''}
              {n.minutes.toFixed(1)} min{n.days ? `, ${n.days} days` : ''}
            </span>
            {n.needed_for && (
              <span className="next-needed">Needed before you treat {words.cause.get(n.needed_for)?.label.toLowerCase()}</span>
            )}
            <span className="faint">
              {n.bundled && next.filter((x) => x.bundled).length > 1 ? 'this stop: ' : ''}
              {proc?.label}
              {n.also?.length ? `, with ${n.also.map((f) => words.findingLabel(f).toLowerCase()).join(' and ')}` : ''}
            </span>
            {i === 0 && !settled && (
              <span className="outcomes">
                {n.outcomes.slice(0, 3).map((o) => {
                  const c = o.causes[0]
                  return (
                    c && (
                      <span key={o.label} className="outcome">
                        {words.valueLabel(n.finding, o.label)} <span className="faint">({percent(o.chance)} %)</span> →{' '}
                        <FamilyMark family={words.cause.get(c.id)?.family ?? ''} /> {words.cause.get(c.id)?.label}{' '}
                        <b className="num">{percent(c.probability)} %</b>
                      </span>
                    )
                  )
                })}
              </span>
            )}
          </button>
        )
      })}
    </section>
  )
}

/** The single answers after which something else would lead. */
function Changes({ changes, words, onGo }: { changes: Schemas['Change'][]; words: Words; onGo: (finding: string) => void }) {
  return (
    <section className="ledger" aria-label="What would change this">
      <h3>What would change this</h3>
      {changes.length === 0 && <p className="faint">No single remaining check would change this.</p>}
      <ul className="changes">
        {changes.map((c) => (
          <li key={c.finding}>
            <button type="button" className="quiet" onClick={() => onGo(c.finding)}>
              {words.findingLabel(c.finding)}: {words.valueLabel(c.finding, c.outcome)}
            </button>
            <span className="faint">{percent(c.chance)} % likely; then</span> <FamilyMark family={words.cause.get(c.leads)?.family ?? ''} />{' '}
            {words.cause.get(c.leads)?.label} <b className="num">{percent(c.then)} %</b>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What may be decided already: what to do now, and what would do harm although people reach for it. */
function Decided({ actions, words }: { actions: Schemas['ActionLine'][]; words: Words }) {
  const of = (a: Schemas['ActionLine']) => words.action.get(a.id)
  const does = inOrder(actions.filter((a) => a.verdict === 'do-now' && of(a)?.recorded && !a.as)).slice(0, 3)
  const harms = actions
    .filter((a) => a.called && (of(a)?.pesticide || of(a)?.feeds) && (a.verdict === 'hold' || a.verdict === 'check-first'))
    .slice(0, 3)
  return (
    <section className="decided" aria-label="Already decided">
      {does.length + harms.length > 0 && <h2>Already clear</h2>}
      {does.map((a) => (
        <p key={a.id} data-verdict="do-now">
          <b>Do</b> {a.label}: <span className="faint">{a.reasons[0]}</span>
        </p>
      ))}
      {harms.map((a) => (
        <p key={a.id} data-verdict={a.verdict}>
          <b>{a.verdict === 'hold' ? 'Wait' : 'Check'}</b> {a.label}: <span className="faint">{a.reasons[0]}</span>
        </p>
      ))}
    </section>
  )
}
