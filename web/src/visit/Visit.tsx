import { Fragment, lazy, Suspense, useEffect, useMemo, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import type { Schemas } from '../api/client'
import { useMe, useOffers, useVisit, useWords, type Words } from '../api/queries'
import { useCase } from '../offline/cases'
import { Busy, Problem } from '../Shell'
import { Apart } from '../scales/Apart'
import { LikeLawns } from '../scales/Alike'
import { Ledger } from '../scales/Ledger'
import { Nearby } from '../scales/Nearby'
import { Scales } from '../scales/Scales'
import { useScales } from '../scales/useScales'
import { Damage } from '../ground/Damage'
import { Notes, SeenOnRounds } from '../notes/Notes'
import { Photos } from '../photo/Photos'
import { Check, choicesOf, type Plain } from './Check'
import { CoreStrip, Feel, HourOfReading } from './ByHand'
import { Heard } from './Heard'
import { InHand } from './InHand'
import { offersBy, rivalsOf, takenOver, type Offered } from './offers'
import { healthy, useAnswers, type Answers, type How } from './useAnswers'
import { Changes, Decided, NextChecks } from './NextChecks'
import { FromProbe } from '../probe/FromProbe'
import { Day } from '../ui/Field'
import { useNarrow } from '../ui/useNarrow'
import { Cans } from '../watering/Cans'
import { useVisitKeys } from './useVisitKeys'
import { VisitHead } from './VisitHead'
import './visit.css'

const Samples = lazy(() => import('./Samples'))

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
  useCase(visit, zone, me?.unit_system ?? 'metric', scales.data !== undefined)
  const [picked, setStation] = useState('')
  const [touched, setActive] = useState('')
  // the plan links to the check that it waits for
  const wanted = search.get('check') ?? ''
  // in one hand a visit begins with the check most worth doing, and goes on to the next once an answer to it has been weighed
  const narrow = useNarrow()
  const [all, setAll] = useState(false)
  const [leadFrom, setLead] = useState<number | undefined>(wanted ? undefined : -1)
  const seq = scales.data?.now.seq ?? 0
  const next = scales.data?.now.diagnosis.next_checks ?? []
  const decisive = scales.data?.now.diagnosis.decisive_checks ?? []
  // what cannot be done here today is passed over, on this device
  const [skipped, setSkipped] = useState<string[]>([])
  // what a laboratory takes days for is not the next thing to do on the lawn, unless a likely remedy may not go without it
  const onLawn = next.filter((n) => !n.days || n.needed_for)
  const worth = [...decisive.map((w) => w.finding), ...onLawn.map((n) => n.finding)]
  const suggestion = worth.find((f) => !skipped.includes(`${zone}/${f}`))
  const led = narrow && !all && leadFrom !== undefined && seq > leadFrom ? suggestion : undefined
  const station = words?.finding.get(led ?? '')?.station || picked || words?.finding.get(wanted)?.station || 'ask'
  const active = led ?? (touched || (picked ? '' : wanted))
  const [open, setOpen] = useState<string[]>([])
  const [cans, setCans] = useState('')

  const may = me?.rights.includes('answer-checks') ?? false
  const { answers, answer, answerAll, undo, last } = useAnswers(visit, zone, scales.data?.now, may)
  const offered = useOffers(visit, zone).data
  const offers = useMemo(
    () => (words && me ? offersBy(offered ?? [], zones, words, me.date_form) : new Map<string, Offered[]>()),
    [offered, zones, words, me],
  )

  // what only steers the advice is asked where a line of it waits for the answer
  const asked = useMemo(
    () => new Set(scales.data?.now.diagnosis.actions.flatMap((a) => (a.verdict === 'check-first' ? (a.check ?? []) : [])) ?? []),
    [scales.data],
  )
  const checks = useMemo(
    () =>
      words?.raw.findings.filter(
        (f) => f.station === station && f.id !== 'soil-temp-hour' && (!f.steers || asked.has(f.id) || answers.has(f.id)),
      ) ?? [],
    [words, station, asked, answers],
  )
  const pick = (atStation: string, check: string) => {
    setLead(undefined)
    setStation(atStation)
    setActive(check)
  }
  const goTo = (finding: string) => {
    const f = words?.finding.get(finding)
    if (!f) return
    pick(f.station, f.id)
    setAll(false)
  }
  const current = checks.find((f) => f.id === active) ?? checks[0]
  const stations = useMemo(() => words?.raw.stations ?? [], [words])
  const stepStation = (by: number) => {
    const i = stations.findIndex((s) => s.id === station)
    const to = stations[(i + by + stations.length) % stations.length]
    if (to) pick(to.id, '')
  }

  useVisitKeys({
    checks,
    current,
    choices: current && current.kind !== 'number' ? choicesOf(current, answers.get(current.id)?.value, words?.raw.causes ?? []) : [],
    answer,
    pick: (check) => pick(station, check),
    stepStation,
    next: suggestion ? () => goTo(suggestion) : undefined,
    close: () => setOpen([]),
    ledger: () => setOpen((o) => (o.length ? [] : [scales.data?.now.diagnosis.causes[0]?.id ?? ''])),
    plan: () => void navigate(`/visits/${visit}/${zone}/plan`),
    otherZone: () => {
      const z = zones[(zones.findIndex((x) => x.id === zone) + 1) % zones.length]
      if (z) void navigate(`/visits/${visit}/${z.id}`)
    },
    undo,
  })

  const opening = open.join()
  useEffect(() => {
    if (opening) document.querySelector('.ledgers')?.scrollIntoView({ block: 'start' })
  }, [opening])

  if (detail.isLoadingError) return <Problem error={detail.error} />
  if (!detail.data || !words || !me) return <Busy what="the visit" />
  const d = scales.data?.now.diagnosis
  const opened = open.map((id) => d?.causes.find((c) => c.id === id)).filter((c) => c !== undefined)

  const toCheck = (f: string) => {
    setOpen([])
    goTo(f)
  }
  const ledgers = opened.length > 0 && (
    <div className="ledgers" data-two={opened.length === 2}>
      {opened.map((c) => (
        <Fragment key={c.id}>
          <Ledger cause={c} words={words} currency={me.currency} onClose={() => setOpen(open.filter((x) => x !== c.id))} />
          {c.nearby !== undefined && <Nearby site={detail.data.site.id} cause={c.id} form={me.date_form} />}
        </Fragment>
      ))}
      {opened.length === 2 && opened[0] && opened[1] && opened.every((c) => c.id !== 'healthy-turf') && (
        <Apart visit={visit} zone={zone} a={opened[0].id} b={opened[1].id} seq={seq} words={words} onGo={toCheck} />
      )}
      {opened.length === 1 && opened[0]?.id === d?.causes[0]?.id && <Changes changes={d?.changes ?? []} words={words} onGo={toCheck} />}
    </div>
  )
  const beside = (
    <>
      {scales.isError && !d && <Problem error={scales.error} />}
      {scales.isError && d && <p className="notice">No connection. These scales are worked out on this device.</p>}
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
          {narrow && ledgers}
          <NextChecks
            next={next}
            decisive={decisive}
            settled={d.settled}
            enough={d.enough}
            words={words}
            currency={me.currency}
            onGo={toCheck}
          />
          <LikeLawns visit={visit} zone={zone} shown={shownOf(answers)} />
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
    </>
  )
  const damage = (
    <Damage
      visit={visit}
      dates={me.date_form}
      site={detail.data.site.id}
      zone={zone}
      words={words}
      units={me.unit_system}
      disabled={!may}
      standing={(check) => answers.get(check)?.value ?? null}
      onAnswers={answerAll}
    />
  )
  // in one hand the map lies in the check that it answers; on a wide page it stands over the station
  const leadFor = (f: Schemas['VFinding']) =>
    narrow && !all && (f.id === 'pattern' || f.id === 'affected-area-percent') ? (
      <details className="fold" open={f.id === 'affected-area-percent'}>
        <summary>Draw it on the map</summary>
        {damage}
      </details>
    ) : undefined
  /** Takes an answer, with the hour where that tells what it means, and goes on where it was the check most worth doing. */
  const answerWith = (f: Schemas['VFinding'], v: Plain, how?: How) => {
    const now = new Date()
    if (f.id === 'soil-temp-c' && v !== null && (answers.get('soil-temp-hour')?.value ?? null) === null)
      answerAll([
        { check: f.id, value: v, how },
        { check: 'soil-temp-hour', value: now.getHours() + now.getMinutes() / 60 },
      ])
    else answer(f.id, v, how)
    pick(f.station, f.id)
    if (f.id === suggestion && v !== null && f.kind !== 'any-of' && f.kind !== 'cause-ids') setLead(seq)
  }
  const aidFor = (f: Schemas['VFinding']) => {
    if (f.id === 'texture')
      return (
        <Feel rows={words.raw.feel} label={(t) => words.valueLabel('texture', t)} disabled={!may} onTake={(t) => answer('texture', t)} />
      )
    if (f.id === 'soil-temp-c' || f.id === 'soil-moisture-vwc')
      return (
        <>
          {f.id === current?.id && (
            <FromProbe
              quantity={f.id === 'soil-temp-c' ? 'C' : '%'}
              spot={zone}
              units={me.unit_system}
              demo={me.demo}
              disabled={!may}
              onTake={(v) => answerWith(f, v)}
            />
          )}
          {f.id === 'soil-temp-c' && typeof answers.get(f.id)?.value === 'number' && (
            <HourOfReading value={answers.get('soil-temp-hour')?.value} disabled={!may} onAnswer={(h) => answer('soil-temp-hour', h)} />
          )}
        </>
      )
    if (f.procedure === 'catch-cans')
      return cans === f.id ? (
        <Cans visit={visit} zone={zone} me={me} onDone={() => setCans('')} />
      ) : (
        <button type="button" className="quiet good-open" disabled={!may} onClick={() => setCans(f.id)} data-cans>
          Work it out from catch cans
        </button>
      )
    if (f.procedure === 'core' && f.measure === 'mm')
      return (
        <CoreStrip
          label={f.label}
          value={answers.get(f.id)?.value}
          units={me.unit_system}
          disabled={!may}
          onAnswer={(mm) => answer(f.id, mm)}
        />
      )
    return undefined
  }
  const one = (f: Schemas['VFinding']) => (
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
      offers={offers.get(f.id)}
      rivals={rivalsOf(answers.get(f.id), f.id, words)}
      lead={leadFor(f)}
      aid={f.id === current?.id || f.id === 'soil-temp-c' ? aidFor(f) : undefined}
      good={
        f.both
          ? {
              value: answers.get(f.id + healthy)?.value,
              state: answers.get(f.id + healthy)?.state,
              offers: offers.get(f.id + healthy),
              rivals: rivalsOf(answers.get(f.id + healthy), f.id, words),
              onAnswer: (v, how) => answer(f.id + healthy, v, how),
            }
          : undefined
      }
      tally={answers.get(f.id)?.tally}
      keep={`${visit}-${zone}-${f.id}`}
      held={{
        limit: d?.limits.find((l) => l.finding === f.id),
        units: me.unit_system,
        dates: me.date_form,
        today: me.today,
      }}
      onActivate={() => {
        if (f.id !== current?.id) pick(f.station, f.id)
      }}
      onAnswer={(v, how) => answerWith(f, v, how)}
    />
  )
  const pictures = (
    <Photos
      key={zone}
      visit={visit}
      zone={zone}
      may={may}
      onTake={(check, value) => {
        answer(check, value)
        if (check !== 'patch-diameter-cm') pick('walk', check) // the picture is still in hand
      }}
    />
  )
  const seen = <SeenOnRounds zone={zone} form={me.date_form} words={words} onGo={goTo} />
  const notes = (
    <Notes key={`${zone}notes`} visit={visit} zone={zone} about={current?.id ?? ''} words={words} form={me.date_form} may={may} />
  )
  const samples = station === 'lab' && (
    <Suspense fallback={<Busy what="the samples" />}>
      <Samples visit={visit} zone={zone} me={me} words={words} />
    </Suspense>
  )
  const head = <VisitHead detail={detail.data} me={me} zone={zone} view="visit" />
  const place = stations.find((s) => s.id === station)
  if (narrow && !all)
    return (
      <InHand
        head={head}
        diagnosis={d}
        words={words}
        scales={beside}
        place={`${place?.label ?? ''} ${checks.findIndex((f) => f.id === current?.id) + 1} of ${checks.length}`}
        plan={`/visits/${visit}/${zone}/plan`}
        pictures={
          <>
            {pictures}
            {notes}
          </>
        }
        seen={seen}
        suggestion={suggestion}
        sample={next.find((n) => n.days)?.finding}
        current={current?.id ?? ''}
        undo={last.length > 0 ? undo : undefined}
        last={last.length === 1 ? words.findingLabel(last[0] ?? '').toLowerCase() : `${last.length} answers`}
        onNext={() => suggestion && goTo(suggestion)}
        onStep={(by) => {
          const i = checks.findIndex((f) => f.id === current?.id) + by
          const f = checks[i]
          if (f) pick(station, f.id)
          else stepStation(by)
        }}
        onList={() => setAll(true)}
        onSkip={() => {
          if (!suggestion) return
          setSkipped([...skipped, `${zone}/${suggestion}`])
          setLead(seq - 1)
        }}
        check={
          <>
            {samples}
            {current && one(current)}
          </>
        }
      />
    )
  return (
    <div className="visit" data-all={narrow}>
      {head}
      <Stations stations={stations} at={station} words={words} answers={answers} onPick={(id) => pick(id, '')} />
      <main className="checks" aria-label="Checks of the station">
        {!narrow && ledgers}
        <p className="does">
          {place?.does}
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
        {seen}
        {may && <TakeOver offers={offered ?? []} zones={zones} answers={answers} onTake={answerAll} />}
        {station === 'walk' && damage}
        {station === 'walk' && pictures}
        {samples}
        {checks.map(one)}
        {notes}
      </main>
      {narrow ? (
        <footer className="hand-bar">
          <button type="button" className="hand-next" onClick={() => setAll(false)} data-one>
            One check at a time
          </button>
        </footer>
      ) : (
        <aside className="beside" aria-label="The scales">
          <Heard d={d} words={words} next={decisive[0]?.finding ?? next[0]?.finding} />
          {last.length > 0 && (
            <button type="button" className="quiet undo" onClick={undo} data-undo>
              Undo {last.length === 1 ? words.findingLabel(last[0] ?? '').toLowerCase() : `${last.length} answers`}
            </button>
          )}
          {beside}
        </aside>
      )}
    </div>
  )
}

/** The stations of the walk, with how much has been answered at each. */
function Stations({
  stations,
  at,
  words,
  answers,
  onPick,
}: {
  stations: Schemas['VStation'][]
  at: string
  words: Words
  answers: Answers
  onPick: (id: string) => void
}) {
  return (
    <nav className="stations" aria-label="Stations of the visit">
      {stations.map((s) => {
        const own = words.raw.findings.filter((f) => f.station === s.id)
        const done = own.filter((f) => answers.has(f.id) && answers.get(f.id)?.value !== null).length
        return (
          <button key={s.id} type="button" data-station={s.id} aria-current={s.id === at ? 'step' : undefined} onClick={() => onPick(s.id)}>
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
        <kbd>z</kbd> other zone, <kbd>Ctrl z</kbd> undo
      </p>
    </nav>
  )
}

/** What like lawns are held against, once the server has it. */
const shownOf = (answers: Answers): string =>
  JSON.stringify(
    ['colour', 'pattern', 'green-up-percent'].map((f) => {
      const a = answers.get(f)
      return a?.state === 'saved' ? a.value : null
    }),
  )

/** Takes over in one press what records, the last visit or another zone answer. */
function TakeOver({
  offers,
  zones,
  answers,
  onTake,
}: {
  offers: Schemas['Offer'][]
  zones: Schemas['Zone'][]
  answers: Answers
  onTake: (list: { check: string; value: Plain }[]) => void
}) {
  const answered = (check: string) => (answers.get(check)?.value ?? null) !== null
  const from = [
    ['records', 'Confirm what the records say'],
    ['client', 'Take over what the client says'],
    ['visit', 'All as on the last visit'],
    ['zone', `All as on the ${zones.find((z) => z.id === offers.find((o) => o.source === 'zone')?.zone_id)?.name ?? 'other zone'}`],
  ] as const
  return (
    <div className="take-over">
      {from.map(([source, label]) => {
        const list = takenOver(offers, source, answered)
        return (
          list.length > 0 && (
            <button key={source} type="button" className="offer" data-take={source} onClick={() => onTake(list)}>
              {label} <b className="num">{list.length}</b>
            </button>
          )
        )
      })}
    </div>
  )
}
