import type { Schemas } from '../api/client'

/** Aims that collide, side by side with their weeks, price and risk. Nothing is decided silently. */
export function Choices({ choices, currency }: { choices: Schemas['Choice'][]; currency: string }) {
  if (choices.length === 0) return null
  return (
    <section className="choices" aria-label="Choices">
      {choices.map((c) => (
        <article key={c.id} data-choice={c.id}>
          <h2>{c.about}</h2>
          <table>
            <thead>
              <tr>
                <th scope="col">Way</th>
                <th scope="col">Weeks</th>
                <th scope="col">Price, {currency}</th>
                <th scope="col">Risk</th>
              </tr>
            </thead>
            <tbody>
              {c.ways.map((w, i) => (
                <tr key={w.label} data-first={i === 0}>
                  <th scope="row">{w.label}</th>
                  <td className="num">{w.weeks}</td>
                  <td className="num">{w.price > 0 ? w.price.toFixed(0) : '–'}</td>
                  <td>{w.risk}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </article>
      ))}
    </section>
  )
}
