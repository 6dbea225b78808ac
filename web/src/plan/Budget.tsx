import { useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import { api, got, type Schemas } from '../api/client'
import { show } from '../format'

const names: Partial<Record<string, string>> = { n: 'Nitrogen', p: 'Phosphorus', k: 'Potassium', fe: 'Iron' }
const by: Record<string, string> = { grass: 'the grass', law: 'law', label: 'label', test: 'soil test' }

/** One bar of a budget: given, planned, and where the most lies. */
function Bar({ row, top }: { row: Schemas['BudgetRow']; top: number }) {
  const at = (x: number) => Math.min(100, (100 * x) / top)
  return (
    <svg viewBox="0 0 100 10" preserveAspectRatio="none" aria-hidden="true" className="budget-bar">
      <rect width="100" height="10" className="budget-all" />
      <rect width={at(row.given)} height="10" className="budget-given" />
      <rect x={at(row.given)} width={at(row.planned)} height="10" className="budget-planned" />
      {row.most !== undefined && <rect x={Math.max(0, at(row.most) - 0.4)} width="0.8" height="10" className="budget-most" />}
    </svg>
  )
}

/** The year's budget of a zone: what it had, what is planned, and what grass, law, label and test leave of it. */
export function BudgetPart({ visit, zone, me }: { visit: string; zone: string; me: Schemas['Me'] }) {
  const [open, setOpen] = useState(false)
  const budget = useQuery({
    queryKey: ['budget', visit, zone],
    queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/budget', { params: { path: { id: visit, zone } } })),
    enabled: open,
  })
  const sys = me.unit_system
  const b = budget.data
  const top = Math.max(1, ...(b?.months.map((m) => m.given + m.planned) ?? []))
  const rows = b?.rows.filter((r) => r.most !== undefined || r.given + r.planned > 0) ?? []
  return (
    <section className="budget" aria-label="Budget of the year">
      <h2>
        <button type="button" className="quiet budget-open" aria-expanded={open} onClick={() => setOpen(!open)}>
          Budget of the year {open ? '▴' : '▾'}
        </button>
      </h2>
      {open && !b && <p className="faint">Adding up …</p>}
      {open && b && (
        <>
          <ol className="months" aria-label="Nitrogen by month">
            {b.months.map((m) => (
              <li key={m.first}>
                <span className="month-bar" aria-hidden="true">
                  <span className="budget-planned" style={{ height: `${(100 * m.planned) / top}%` }} />
                  <span className="budget-given" style={{ height: `${(100 * m.given) / top}%` }} />
                </span>
                <small className="num">
                  {['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'][Number(m.first.slice(5, 7)) - 1]}
                  <br />
                  {m.given + m.planned > 0 ? show(m.given + m.planned, 'g/m2', sys, sys === 'us' ? 2 : 1).split(' ')[0] : '–'}
                </small>
              </li>
            ))}
          </ol>
          <p className="num">
            Still to be released: <b>{show(b.coming_n_g_m2, 'g/m2', sys, 2)} N</b>, of that {show(b.soon_n_g_m2, 'g/m2', sys, 2)} in the
            next three weeks. Water on record: {show(b.water_mm, 'mm', sys, 1)}.
          </p>
          <table className="budget-table">
            <thead>
              <tr>
                <th scope="col">What</th>
                <th scope="col">Given</th>
                <th scope="col">Planned</th>
                <th scope="col">Most</th>
                <th scope="col">Left</th>
                <th scope="col">
                  <span className="unseen">Bar</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.id + r.by + (r.rule ?? '')} data-over={r.over}>
                  <td>
                    <b>{names[r.id] ?? r.id}</b> <span className="faint">{r.rule ?? `by ${by[r.by] ?? r.by}`}</span>
                  </td>
                  <td className="num">{show(r.given, 'g/m2', sys, 3)}</td>
                  <td className="num">{show(r.planned, 'g/m2', sys, 3)}</td>
                  <td className="num">{r.most === undefined ? 'not set' : show(r.most, 'g/m2', sys, 3)}</td>
                  <td className="num">{r.left === undefined ? '' : r.over ? 'over' : show(r.left, 'g/m2', sys, 3)}</td>
                  <td>
                    <Bar row={r} top={Math.max(r.most ?? 0, r.given + r.planned, 0.001)} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </section>
  )
}
