import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { benchOf } from '../bench/entries'

/** How much a line of the plan takes, with the sum behind it; what is still missing is filled in on the bench. */
export function HowMuch({ sum, fields, me }: { sum: Schemas['Sum']; fields: Schemas['BenchField'][]; me: Schemas['Me'] }) {
  const lead = sum.lines.filter((l) => l.lead)
  const shown = lead.length > 0 ? [...lead, ...sum.lines.filter((l) => !l.lead)].slice(0, 4) : sum.lines.slice(0, 4)
  const missing = sum.missing.map((id) => fields.find((f) => f.id === id)?.label.toLowerCase() ?? id)
  return (
    <div className="how-much" data-sum={sum.calculation}>
      <b>How much</b>
      {shown.map((l) => (
        <span key={l.id}>
          {l.label} <b className="num">{l.text}</b>
          {l.span && <span className="faint num"> ({l.span})</span>}
        </span>
      ))}
      {missing.length > 0 && <span className="faint">still needed: {missing.join(', ')}</span>}
      {sum.warnings.map((w) => (
        <span key={w.limit} className="caution">
          {w.text.charAt(0).toUpperCase() + w.text.slice(1)}.
        </span>
      ))}
      {sum.working.length > 0 && (
        <details>
          <summary>The sum</summary>
          <ol>
            {sum.working.map((w) => (
              <li key={w} className="num">
                {w}
              </li>
            ))}
          </ol>
        </details>
      )}
      <Link className="check-link" to={benchOf(sum, fields, me.unit_system)}>
        {missing.length > 0 ? 'Work it out on the bench' : 'Change it on the bench'}
      </Link>
    </div>
  )
}
