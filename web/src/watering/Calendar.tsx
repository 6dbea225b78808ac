import type { Schemas } from '../api/client'
import { reader, showDate } from '../format'
import { policies } from './words'

/** The days ahead, a column each: rain, what would be left without watering, and what each policy gives. */
export function Calendar({ w, me }: { w: Schemas['Watering']; me: Schemas['Me'] }) {
  const r = reader(me.unit_system)
  const short = (iso: string) => showDate(iso, 'dmy', true).split(' ')
  const due = (name: string, date: string) => w.policies.find((p) => p.name === name)?.due.find((d) => d.date === date)
  const why = w.policies.flatMap((p) => p.due.map((d) => ({ ...d, policy: policies[p.name] ?? p.name })))
  return (
    <div className="water-calendar">
      <table>
        <caption className="unseen">Watering in the days ahead, in {r.water}</caption>
        <thead>
          <tr>
            <th scope="col">
              <span className="faint">{r.water}</span>
            </th>
            {w.ahead.map((d) => (
              <th key={d.date} scope="col" data-permitted={d.permitted}>
                <span className="faint">{short(d.date)[0]?.slice(0, 2)}</span>
                <b className="num">{short(d.date)[1]}</b>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">rain</th>
            {w.ahead.map((d) => (
              <td key={d.date} className="num" data-rain={(d.rain_mm ?? 0) >= 1}>
                {d.rain_mm == null ? '–' : d.rain_mm >= 0.5 ? r.tight(d.rain_mm) : ''}
              </td>
            ))}
          </tr>
          <tr>
            <th scope="row">left</th>
            {w.ahead.map((d) => (
              <td key={d.date} className="num" data-short={d.left_mm != null && d.left_mm <= w.total_mm / 2}>
                {d.left_mm == null ? '–' : r.tight(d.left_mm)}
              </td>
            ))}
          </tr>
          {w.policies.map((p) => (
            <tr key={p.name} data-policy={p.name}>
              <th scope="row">{p.name === 'keep-green' ? 'green' : 'rest'}</th>
              {w.ahead.map((d) => {
                const x = due(p.name, d.date)
                return (
                  <td key={d.date} className="num" data-due={x !== undefined} data-permitted={d.permitted}>
                    {x ? r.tight(x.mm) : d.permitted ? '' : '×'}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {why.length === 0 ? (
        <p className="faint">Nothing is due in the days ahead.</p>
      ) : (
        <ul>
          {why.map((d) => (
            <li key={d.policy + d.date}>
              <b>{showDate(d.date, me.date_form, true)}</b> {d.policy.toLowerCase()}:{' '}
              <span className="num">
                {r.depth(d.mm)} {r.water}
              </span>
              <span className="faint">, {d.why}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}
