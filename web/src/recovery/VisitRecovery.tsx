import { useState } from 'react'
import { Button, Input } from 'antd'
import { useParams } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import type { Schemas } from '../api/client'
import { newId, useMe, useRecovery, useVisit, useWords } from '../api/queries'
import { percent, readNumber, showDate } from '../format'
import { Busy, Problem } from '../Shell'
import { Beside } from '../photo/Beside'
import { write } from '../offline/writes'
import { Photos } from '../photo/Photos'
import { photosQuery } from '../photo/queries'
import { shareSaid } from '../photo/words'
import { Trials } from '../trials/Trials'
import { VisitHead } from '../visit/VisitHead'
import { Course, VerdictBox } from './Course'
import { CameBack, CloseCase } from './Ending'
import { SameChecks } from './SameChecks'
import { ZoneThread } from './Thread'
import './recovery.css'

function Stepper({
  label,
  value,
  before,
  onChange,
  hint,
}: {
  label: string
  value: string
  /** at the last look, as a share: from there the steps go on */
  before?: number | undefined
  onChange: (v: string) => void
  hint: string
}) {
  const was = before === undefined ? undefined : Math.round(before * 100)
  const step = (by: number) => onChange(String(Math.min(100, Math.max(0, (readNumber(value) ?? was ?? 50) + by))))
  return (
    <div className="field">
      <span>{label}</span>
      <div className="number">
        <button type="button" className="stepper" onClick={() => step(-5)} aria-label={`Less ${label}`}>
          −
        </button>
        <input
          className="number-field"
          inputMode="decimal"
          aria-label={label}
          value={value}
          placeholder="—"
          onChange={(e) => onChange(e.target.value)}
        />
        <button type="button" className="stepper" onClick={() => step(5)} aria-label={`More ${label}`}>
          +
        </button>
        <span className="unit">%</span>
      </div>
      <small className="faint">
        {was !== undefined && `Last time ${was} %. `}
        {hint}
      </small>
    </div>
  )
}

/** What the pictures of the bad spot come to, to be taken over as the cover. */
function ByPictures({ visit, zone, onTake }: { visit: string; zone: string; onTake: (percent: number) => void }) {
  const sums = useQuery({ ...photosQuery(visit, zone), enabled: zone !== '' }).data?.sums ?? []
  const s = sums.find((x) => x.about === 'cover' && x.spot === 'worst') ?? sums.find((x) => x.about === 'cover' && x.spot === '')
  if (!s) return null
  return (
    <button type="button" className="offer" onClick={() => onTake(Math.round(s.cover * 100))} data-take-cover>
      <span className="faint">By {s.of === 1 ? 'one picture' : `${s.of} pictures`}</span>{' '}
      <b className="num">{shareSaid(s.cover, s.error)}</b>
    </button>
  )
}

function Measure({ visit, zone, started, last }: { visit: string; zone: string; started: boolean; last?: Schemas['Measure'] | undefined }) {
  const [cover, setCover] = useState('')
  const [crowns, setCrowns] = useState('')
  const [spread, setSpread] = useState<'' | 'none' | 'new'>('')
  const [baseline, setBaseline] = useState(!started)
  const [note, setNote] = useState('')
  const [id, setId] = useState(newId)
  const share = (t: string) => {
    const n = readNumber(t)
    return n === undefined ? undefined : n / 100
  }
  const c = share(cover)
  const live = share(crowns)
  const save = useMutation({
    mutationFn: () => {
      const body: Schemas['Measure'] = {
        id,
        zone_id: zone,
        baseline,
        cover: c ?? -1,
        spread,
        note,
        measured_at: new Date().toISOString(),
        ...(live !== undefined ? { live_crowns: live } : {}),
      }
      return write(id, { what: 'measure', zone, visit, body })
    },
    onSuccess: () => {
      setCover('')
      setCrowns('')
      setNote('')
      setId(newId())
      setBaseline(false)
    },
  })
  const wrong = (cover !== '' && (c === undefined || c < 0 || c > 1)) || (crowns !== '' && (live === undefined || live < 0 || live > 1))
  return (
    <form
      className="form measure"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
      aria-label="Measure"
    >
      <h2>{started ? 'Measure again' : 'Measure the baseline'}</h2>
      <Stepper
        label="Green cover"
        value={cover}
        before={last?.cover}
        onChange={setCover}
        hint="of the damaged part, from straight above; estimates by eye tend to be high"
      />
      <ByPictures visit={visit} zone={zone} onTake={(percent) => setCover(String(percent))} />
      <Stepper
        label="Crowns alive"
        value={crowns}
        before={last?.live_crowns}
        onChange={setCrowns}
        hint="of ten to twenty cut; leave empty if not cut"
      />
      <div className="field">
        <span>New spread</span>
        <div className="answers">
          {(
            [
              ['none', 'none'],
              ['new', 'yes, new'],
            ] as const
          ).map(([v, l]) => (
            <button key={v} type="button" className="answer" aria-pressed={spread === v} onClick={() => setSpread(spread === v ? '' : v)}>
              {l}
            </button>
          ))}
        </div>
      </div>
      {started && (
        <label className="tick-box">
          <input type="checkbox" checked={baseline} onChange={(e) => setBaseline(e.target.checked)} /> Count from here: this is a new
          baseline
        </label>
      )}
      <label className="field">
        <span>Note</span>
        <Input aria-label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      </label>
      {wrong && (
        <p className="problem" role="alert">
          Enter 0 to 100 %.
        </p>
      )}
      {save.isError && <Problem error={save.error} />}
      {save.data === 'kept' && <p role="status">Saved on this device. It goes out when the connection is back.</p>}
      <Button type="primary" htmlType="submit" loading={save.isPending} disabled={c === undefined || wrong}>
        Save measurement
      </Button>
    </form>
  )
}

export default function VisitRecovery() {
  const { visit = '', zone = '' } = useParams()
  const me = useMe().data
  const words = useWords()
  const detail = useVisit(visit)
  const recovery = useRecovery(zone)
  if (detail.isLoadingError || recovery.isLoadingError) return <Problem error={detail.error ?? recovery.error} />
  if (!detail.data || !recovery.data || !me || !words) return <Busy what="the recovery" />
  const r = recovery.data
  return (
    <div className="recovery-page">
      <VisitHead detail={detail.data} me={me} zone={zone} view="recovery" />
      <main>
        <div>
          <VerdictBox r={r} form={me.date_form} today={me.today} again={`/visits/${visit}/${zone}`} />
          {r.ending && <CameBack ending={r.ending} words={words} form={me.date_form} currency={me.currency} />}
          {r.started ? (
            <Course r={r} today={me.today} form={me.date_form} />
          ) : (
            <p className="empty">
              The course is drawn from the first measurement on. Measure the green cover of the damaged part before anything is done to it.
            </p>
          )}
          <ZoneThread key={`${zone}thread`} zone={zone} visit={visit} words={words} form={me.date_form} />
          <Beside key={zone} zone={zone} form={me.date_form} />
          <Trials key={`${zone}trials`} zone={zone} me={me} />
          <Done
            r={r}
            form={me.date_form}
            label={(id) => words.action.get(id)?.label ?? id}
            cause={(id) => words.cause.get(id)?.label ?? id}
          />
        </div>
        {me.rights.includes('answer-checks') && (
          <div>
            <Photos key={`${zone}photos`} visit={visit} zone={zone} may />
            <Measure key={zone} visit={visit} zone={zone} started={r.started} last={r.measures.at(-1)} />
            <SameChecks key={`${zone}same`} again={r.again} visit={visit} zone={zone} words={words} me={me} />
            {r.ending && (
              <CloseCase
                key={`${zone}end${r.verdict}`}
                ending={r.ending}
                words={words}
                form={me.date_form}
                visit={visit}
                zone={zone}
                recovered={r.verdict === 'recovered'}
                may
              />
            )}
          </div>
        )}
      </main>
    </div>
  )
}

export function Done({
  r,
  form,
  label,
  cause,
}: {
  r: Schemas['Recovery']
  form: Schemas['Me']['date_form']
  label: (id: string) => string
  cause: (id: string) => string
}) {
  const lines = [
    ...r.given.map((g) => ({ on: g.given_on, what: `Diagnosis: ${cause(g.leading)}, ${percent(g.probability)} %`, key: g.id })),
    ...r.records.map((x) => ({ on: x.applied_on ?? '', what: `${label(x.action)}${x.product ? `, ${x.product}` : ''}`, key: x.id })),
    ...r.measures.map((l) => ({
      on: l.measured_on ?? '',
      what: `Measured: ${Math.round(l.cover * 100)} % green${l.baseline ? ', baseline' : ''}${l.spread === 'new' ? ', new spread' : ''}${l.note ? `. ${l.note}` : ''}`,
      key: l.id,
    })),
  ].sort((a, b) => b.on.localeCompare(a.on))
  if (lines.length === 0) return null
  return (
    <section aria-label="History of the zone">
      <h2>What happened here</h2>
      <ul className="records">
        {lines.map((l) => (
          <li key={l.key}>
            <span className="num">{showDate(l.on, form)}</span> {l.what}
          </li>
        ))}
      </ul>
    </section>
  )
}
