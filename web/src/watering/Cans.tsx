import { useState } from 'react'
import { useMutation } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { newId, queryClient } from '../api/queries'
import { fromSI, reader, readNumber, toSI, unitFor, type Reader } from '../format'
import { Problem } from '../Shell'
import './cans.css'

/** The last audit over the plan: what each can held, the low quarter underlined, the damage shaded. */
export function AuditPlan({ audit, r }: { audit: Schemas['AuditOnPlan']; r: Reader }) {
  const at = new Map(audit.cans.map((c, i) => [c.y * 12 + c.x, { mm: c.mm, low: audit.low.includes(i) }]))
  const damaged = new Set(audit.damaged)
  const lowOn = [...at].filter(([cell, c]) => c.low && damaged.has(cell)).length
  const words = `${audit.cans.length} cans over ${audit.minutes} min; ${audit.low.length} in the low quarter${damaged.size ? `, ${lowOn} of them on the damage` : ''}`
  return (
    <figure className="audit-plan">
      <div className="can-grid" role="img" aria-label={words}>
        {Array.from({ length: 96 }, (_, cell) => {
          const c = at.get(cell)
          return (
            <span key={cell} data-low={c?.low} data-has={c !== undefined} data-damaged={damaged.has(cell)}>
              {c && r.tight(c.mm, c.mm < 10)}
            </span>
          )
        })}
      </div>
      <figcaption className="faint">
        {words}. Depths ({r.water}); low cans underlined, damage hatched.
      </figcaption>
    </figure>
  )
}

/** Cans on the plan of twelve by eight: press a cell, type the depth. */
export function Cans({ visit, zone, me, onDone }: { visit: string; zone: string; me: Schemas['Me']; onDone: () => void }) {
  const unit = reader(me.unit_system).water
  const [depths, setDepths] = useState<Map<number, string>>(new Map())
  const [minutes, setMinutes] = useState('15')
  const [cell, setCell] = useState<number | undefined>()
  const rows = [...depths].flatMap(([at, text]) => {
    const depth = readNumber(text)
    return depth === undefined
      ? []
      : [{ x: at % 12, y: Math.floor(at / 12), mm: Math.round(toSI(depth, 'mm', me.unit_system) * 100) / 100 }]
  })
  const save = useMutation({
    mutationFn: () =>
      got(
        api.POST('/visits/{id}/audits', {
          params: { path: { id: visit } },
          body: { id: newId(), zone_id: zone, minutes: readNumber(minutes) ?? 0, cans: rows },
        }),
      ),
    onSuccess: () => Promise.all(['watering', 'sky', 'scales'].map((k) => queryClient.invalidateQueries({ queryKey: [k, visit, zone] }))),
  })
  const low = new Set(
    save.data?.low.map((i) => {
      const r = rows[i]
      return r ? r.y * 12 + r.x : -1
    }),
  )
  return (
    <form
      className="cans"
      aria-label="Catch cans"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <p className="faint">Press where a can stood and type its depth in {unit}; four at least, twenty are better.</p>
      <div className="can-grid">
        {Array.from({ length: 96 }, (_, at) => (
          <button
            key={at}
            type="button"
            aria-label={`Can at column ${(at % 12) + 1}, row ${Math.floor(at / 12) + 1}`}
            aria-pressed={cell === at}
            data-low={low.has(at)}
            data-has={depths.has(at)}
            onClick={() => setCell(at)}
          >
            {depths.get(at) ?? ''}
          </button>
        ))}
      </div>
      {cell !== undefined && (
        <label className="field">
          <span>Depth in this can, {unit}</span>
          <input
            key={cell}
            className="plain-date"
            autoFocus
            inputMode="decimal"
            aria-label="Depth in this can"
            value={depths.get(cell) ?? ''}
            onChange={(e) => {
              const next = new Map(depths)
              if (e.target.value) next.set(cell, e.target.value)
              else next.delete(cell)
              setDepths(next)
            }}
          />
        </label>
      )}
      <label className="field">
        <span>Minutes they stood</span>
        <input
          className="plain-date"
          inputMode="decimal"
          aria-label="Minutes they stood"
          value={minutes}
          onChange={(e) => setMinutes(e.target.value)}
        />
      </label>
      {save.isError && <Problem error={save.error} />}
      {save.data && (
        <p className="notice" role="status">
          <b className="num">
            {fromSI(save.data.rate_mm_h, 'mm/h', me.unit_system).toFixed(me.unit_system === 'us' ? 2 : 1)}{' '}
            {unitFor('mm/h', me.unit_system)?.label}, uniformity {save.data.uniformity.toFixed(2)}
          </b>{' '}
          ({save.data.from.toFixed(2)} to {save.data.to.toFixed(2)}): {save.data.verdict}.
        </p>
      )}
      <p className="buttons">
        <button type="submit" className="plain-button" disabled={rows.length < 4 || save.isPending}>
          Work it out ({rows.length})
        </button>
        <button type="button" className="plain-button" onClick={onDone}>
          Close
        </button>
      </p>
    </form>
  )
}
