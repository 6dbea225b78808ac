import type { Schemas } from '../api/client'
import { show, type UnitSystem } from '../format'
import { between, whole, type FigurePart } from './said'

/** What a visit's checks saved on one lawn, or lost. */
export const savedSaid = (saved: number, currency: string): string =>
  saved >= 0 ? `checking saved ${Math.round(saved)} ${currency}` : `checking lost ${Math.round(-saved)} ${currency}`

/** How one lawn was watered before the visit. */
export const wateredSaid = (c: Schemas['FirmCase'], units: UnitSystem): string =>
  c.water_given_mm === undefined || c.water_asked_mm === undefined
    ? ''
    : `; given ${show(c.water_given_mm, 'mm', units, 1)}, needed ${show(c.water_asked_mm, 'mm', units, 1)} in four weeks`

/** The figures that come of looking back: which checks decided, what they saved, how the lawns were watered. */
export function Looked({ f, currency, onOpen }: FigurePart & { currency: string }) {
  return (
    <>
      <div>
        <dt>Checks that made the difference</dt>
        <dd>
          <b>{f.checks.n === 0 ? '—' : `${whole(f.checks.of / f.checks.n)} %`}</b>
          <small>{f.checks.n === 0 ? 'counted overnight' : `${f.checks.of} of ${f.checks.n}; the rest only confirmed`}</small>
        </dd>
      </div>
      <div>
        <dt>Saved by checking, per lawn</dt>
        <dd>
          {f.saved.n === 0 ? (
            <b>—</b>
          ) : (
            <button type="button" onClick={() => onOpen({ title: 'What checking saved', which: 'saved' })} data-figure="saved">
              {Math.round(f.saved.mean)} {currency}
            </button>
          )}
          <small>
            {f.saved.n === 0
              ? 'no closed case yet'
              : [
                  `against going by the client’s word; ${f.saved.n} closed`,
                  f.saved.n > 1 && between(Math.round(f.saved.low), Math.round(f.saved.high)),
                ]
                  .filter(Boolean)
                  .join(', ')}
          </small>
        </dd>
      </div>
      <div>
        <dt>Water given of what was needed</dt>
        <dd>
          {f.water.n === 0 ? (
            <b>—</b>
          ) : (
            <button type="button" onClick={() => onOpen({ title: 'Lawns with a watering log', which: 'watered' })} data-figure="water">
              {whole(f.water.mean)} %
            </button>
          )}
          <small>
            {f.water.n === 0
              ? 'no watering log before a visit'
              : [
                  `four weeks before ${f.water.n === 1 ? 'a visit' : `${f.water.n} visits`}`,
                  f.water.n > 1 && between(whole(f.water.low), whole(f.water.high)),
                ]
                  .filter(Boolean)
                  .join(', ')}
          </small>
        </dd>
      </div>
    </>
  )
}

/** Each check: how often it was made, how often it decided, and the minutes that went into it. */
export function Checks({ f, onOpen }: FigurePart) {
  return (
    <section aria-label="What each check was worth">
      <h2>What each check was worth</h2>
      {f.by_check.length === 0 ? (
        <p className="faint">Every night the program works out what each check changed. Nothing has been counted yet.</p>
      ) : (
        <table className="check-worth">
          <thead>
            <tr>
              <th scope="col">Check</th>
              <th scope="col">Made the difference</th>
              <th scope="col" className="num">
                Minutes
              </th>
            </tr>
          </thead>
          <tbody>
            {f.by_check.map((c) => (
              <tr key={c.procedure}>
                <th scope="row">{c.label}</th>
                <td>
                  <button
                    type="button"
                    onClick={() => onOpen({ title: `${c.label}: made the difference`, check: c.procedure, decided: 'yes' })}
                    data-check={c.procedure}
                    aria-label={`${c.label} made the difference on ${c.of} of ${c.n}`}
                  >
                    <i style={{ width: `${(c.of / c.n) * 100}%` }} />
                    <b>
                      {c.of} of {c.n}
                    </b>
                  </button>
                </td>
                <td className="num">{Math.round(c.minutes)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}
