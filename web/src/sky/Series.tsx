import { useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { api, got, sendFile, type Schemas } from '../api/client'
import { queryClient } from '../api/queries'
import { readNumber, toSI, unitFor } from '../format'
import { Problem } from '../Shell'
import { Day } from '../ui/Field'

const refresh = () => Promise.all(['sky', 'watering', 'scales', 'day'].map((k) => queryClient.invalidateQueries({ queryKey: [k] })))

/** What is measured on the site itself: weather and readings as files in and out, and the water that a zone is given. */
export function Series({ site, zone, me }: { site: Schemas['Site']; zone: string; me: Schemas['Me'] }) {
  const may = me.rights.includes('answer-checks')
  return (
    <details className="series">
      <summary>Measured on the site: gauge, probe, soil test, watering</summary>
      <div className="series-parts">
        {may && <Given key={zone} zone={zone} name={site.zones?.find((z) => z.id === zone)?.name ?? ''} me={me} />}
        <section aria-label="Weather of the site">
          <h3>Weather</h3>
          <p className="faint">On-site readings replace the weather station's, value by value.</p>
          {may && <FileIn site={site.id} kind="weather" />}
          <p className="buttons">
            <a className="plain-button" download href={`/api/v1/sites/${site.id}/weather?kind=daily`}>
              Daily file
            </a>
            <a className="plain-button" download href={`/api/v1/sites/${site.id}/weather?kind=hourly`}>
              Hourly file
            </a>
          </p>
        </section>
        <section aria-label="Readings of the site">
          <h3>Readings and soil tests</h3>
          <p className="faint">Thermometer and probe correct soil and balance on their day; a soil test stands for two years.</p>
          {may && <FileIn site={site.id} kind="readings" />}
          <p className="buttons">
            <a className="plain-button" download href={`/api/v1/sites/${site.id}/readings`}>
              Readings file
            </a>
          </p>
        </section>
      </div>
    </details>
  )
}

function FileIn({ site, kind }: { site: string; kind: 'weather' | 'readings' }) {
  const [how, setHow] = useState<{ part: number; words: string } | undefined>()
  const send = useMutation({
    mutationFn: (file: File) =>
      sendFile(`/sites/${site}/${kind}`, file, {
        sent: (part) => setHow({ part: part * 0.5, words: part < 1 ? `${Math.round(part * 100)} % sent` : 'sent, being read' }),
        taken: (p) =>
          setHow({
            part: 0.5 + (0.5 * p.done) / Math.max(1, p.of),
            words: `${p.done.toLocaleString('en')} of ${p.of.toLocaleString('en')} taken`,
          }),
      }),
    onSuccess: refresh,
    onSettled: () => setHow(undefined),
  })
  const one = kind === 'weather' ? 'day' : 'reading'
  const count = (n: number, word: string) => `${n.toLocaleString('en')} ${word}${n === 1 ? '' : 's'}`
  return (
    <div className="file-in">
      <label className="plain-button">
        Import a file
        <input
          type="file"
          accept=".csv,text/csv"
          aria-label={kind === 'weather' ? 'Weather file' : 'Readings file'}
          disabled={send.isPending}
          onChange={(e) => {
            const f = e.target.files?.[0]
            e.target.value = ''
            if (f) send.mutate(f)
          }}
        />
      </label>
      {how && (
        <p role="status">
          <progress value={how.part} max={1} aria-label="How far" /> {how.words}
        </p>
      )}
      {send.isError && <Problem error={send.error} />}
      {send.isSuccess && (
        <div className="notice" role="status">
          {kind === 'weather' ? (
            <p>
              <b className="num">{count(send.data.done, one)}</b> of {count(send.data.lines, 'line')} {send.data.done === 1 ? 'is' : 'are'}{' '}
              in.
            </p>
          ) : (
            <p>
              <b className="num">{count(send.data.new ?? 0, 'new reading')}</b>, {send.data.corrected ?? 0} corrected,{' '}
              {send.data.done - (send.data.new ?? 0) - (send.data.corrected ?? 0)} as before.
            </p>
          )}
          {(send.data.flags ?? []).length > 0 && (
            <ul>
              {send.data.flags?.map((f) => (
                <li key={f}>{f}</li>
              ))}
            </ul>
          )}
        </div>
      )}
    </div>
  )
}

/** Water that the zone was given on a day; who keeps this log gave nothing on the days that are not in it. */
function Given({ zone, name, me }: { zone: string; name: string; me: Schemas['Me'] }) {
  const [day, setDay] = useState(me.today)
  const [amount, setAmount] = useState('')
  const mm = readNumber(amount)
  const save = useMutation({
    mutationFn: () =>
      got(
        api.PUT('/zones/{id}/waterings', {
          params: { path: { id: zone } },
          body: { day, mm: Math.round(toSI(mm ?? -1, 'mm', me.unit_system) * 10) / 10 },
        }),
      ),
    onSuccess: async () => {
      setAmount('')
      await refresh()
    },
  })
  return (
    <form
      aria-label="Water given"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h3>Water given to {name}</h3>
      <p className="faint">Once you start this log, a day with no entry means no watering.</p>
      <div className="given">
        <Day label="Day of watering" required form={me.date_form} max={me.today} value={day} onChange={setDay} />
        <label className="field">
          <span>Depth, {unitFor('mm', me.unit_system)?.label}</span>
          <input
            className="plain-date"
            inputMode="decimal"
            required
            aria-label="Depth given"
            value={amount}
            onChange={(e) => setAmount(e.target.value)}
          />
        </label>
        <button type="submit" className="plain-button" disabled={mm === undefined || save.isPending}>
          Log it
        </button>
      </div>
      {save.isError && <Problem error={save.error} />}
      {save.isSuccess && !amount && (
        <p role="status" className="faint">
          Noted.
        </p>
      )}
    </form>
  )
}
