import { lazy, Suspense, useCallback, useEffect, useMemo, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { newId, useMe, useVisit, useWords } from '../api/queries'
import { Busy, Problem } from '../Shell'
import { Apart } from '../scales/Apart'
import { Ledger } from '../scales/Ledger'
import { Scales } from '../scales/Scales'
import { useScales } from '../scales/useScales'
import { Check, choicesOf, type Answered, type Plain } from './Check'
import { outbox } from './box'
import { Changes, Decided, NextChecks } from './NextChecks'
import { useOutbox } from './outbox'
import { planShare, DamageGrid } from './DamageGrid'
import { Day } from '../ui/Field'
import { useVisitKeys } from './useVisitKeys'
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

  useVisitKeys({
    checks,
    current,
    choices: current && current.kind !== 'number' ? choicesOf(current, answers.get(current.id)?.value, words?.raw.causes ?? []) : [],
    answer,
    pick: setActive,
    stepStation,
    next: suggestion ? () => goTo(suggestion) : undefined,
    close: () => setOpen([]),
    ledger: () => setOpen((o) => (o.length ? [] : [scales.data?.now.diagnosis.causes[0]?.id ?? ''])),
    plan: () => void navigate(`/visits/${visit}/${zone}/plan`),
    otherZone: () => {
      const z = zones[(zones.findIndex((x) => x.id === zone) + 1) % zones.length]
      if (z) void navigate(`/visits/${visit}/${z.id}`)
    },
  })

  const opening = open.join()
  useEffect(() => {
    if (opening) document.querySelector('.ledgers')?.scrollIntoView({ block: 'start' })
  }, [opening])

  if (detail.isLoadingError) return <Problem error={detail.error} />
  if (!detail.data || !words || !me) return <Busy what="the visit" />
  const damaged = (answers.get('damaged-cells')?.value as unknown as number[] | null) ?? []
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
          <DamageGrid
            damaged={damaged}
            disabled={!may}
            onChange={(cells) => {
              answer('damaged-cells', cells.length ? (cells as unknown as string[]) : null)
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
