import { useState } from 'react'
import { Button } from 'antd'
import { Link, useNavigate } from 'react-router'
import { useMutation, useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId } from '../api/queries'
import { readNumber, showDate } from '../format'
import { Buttons, Pick, Text } from '../ui/Field'
import { plotsFor, treatmentSaid } from './words'
import './trials.css'

function LayOut({ zone, today, onDone }: { zone: string; today: string; onDone: () => void }) {
  const navigate = useNavigate()
  const [id] = useState(newId)
  const [keys] = useState(() => Array.from({ length: 60 }, newId)) // the same when it is sent again
  const [name, setName] = useState('')
  const [unit, setUnit] = useState('g/m²')
  const [rows, setRows] = useState([{ treatment: '', dose: '' }])
  const [repeats, setRepeats] = useState('2')
  const wanted = rows
    .filter((r) => r.treatment.trim() !== '')
    .map((r) => ({ treatment: r.treatment.trim(), dose: readNumber(r.dose) ?? 0 }))
  const plots = plotsFor(wanted, Number(repeats))
  const save = useMutation({
    mutationFn: () =>
      got(
        api.POST('/trials', {
          body: {
            id,
            zone_id: zone,
            name,
            dose_unit: unit,
            began_on: today,
            version: 0,
            plots: plots.map((p, i) => ({ id: keys[i] ?? newId(), ...p })),
          },
        }),
      ),
    onSuccess: () => navigate(`/trials/${id}`),
  })
  const put = (i: number, change: Partial<{ treatment: string; dose: string }>) =>
    setRows(rows.map((r, k) => (k === i ? { ...r, ...change } : r)))
  return (
    <form
      className="form"
      aria-label="Lay out a trial"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <h3>Lay out a trial</h3>
      <Text label="Name" required value={name} onChange={setName} />
      {rows.map((r, i) => (
        <div className="between" key={i}>
          <Text label={`Treatment ${i + 1}`} value={r.treatment} onChange={(treatment) => put(i, { treatment })} />
          <Text label="Dose" value={r.dose} unit={unit} onChange={(dose) => put(i, { dose })} />
        </div>
      ))}
      {rows.length < 6 && (
        <Button onClick={() => setRows([...rows, { treatment: rows.at(-1)?.treatment ?? '', dose: '' }])}>
          One more treatment or dose
        </Button>
      )}
      <Text label="Unit of the dose" value={unit} onChange={setUnit} />
      <Pick
        label="Plots of each"
        hint="two at least, so that chance can be told from effect; four are good"
        value={repeats}
        onChange={setRepeats}
        options={['1', '2', '3', '4', '5', '6'].map((n) => [n, n] as const)}
      />
      {wanted.length > 0 && (
        <ol className="layout" aria-label="Plots in their order">
          {plots.map((p) => (
            <li key={p.name} data-untreated={p.treatment === ''}>
              {treatmentSaid(p, unit)}
            </li>
          ))}
        </ol>
      )}
      <Buttons
        save="Lay it out"
        pending={save.isPending}
        error={save.error}
        onClose={onDone}
        disabled={name.trim() === '' || wanted.length === 0}
      />
    </form>
  )
}

/** The trials in a zone, and a new one. */
export function Trials({ zone, me }: { zone: string; me: Schemas['Me'] }) {
  const [open, setOpen] = useState(false)
  const list =
    useQuery({
      queryKey: ['trials', zone],
      queryFn: () => got(api.GET('/zones/{id}/trials', { params: { path: { id: zone } } })),
      enabled: zone !== '',
    }).data ?? []
  const may = me.rights.includes('answer-checks')
  if (list.length === 0 && !may) return null
  return (
    <section className="trials" aria-label="Trials">
      <h2>Trials</h2>
      <ul className="records">
        {list.map((t) => (
          <li key={t.id}>
            <Link to={`/trials/${t.id}`}>{t.name}</Link>{' '}
            <span className="faint">
              since {showDate(t.began_on, me.date_form)}
              {t.closed_on && `, closed ${showDate(t.closed_on, me.date_form)}`}
            </span>
          </li>
        ))}
      </ul>
      {list.length === 0 && <p className="faint">Plots or strips, treated and untreated, tell whether a treatment works here.</p>}
      {may && !open && <Button onClick={() => setOpen(true)}>Lay out a trial</Button>}
      {open && <LayOut zone={zone} today={me.today} onDone={() => setOpen(false)} />}
    </section>
  )
}
