import { percent, show } from '../format'
import type { Words } from '../api/queries'
import type { Schemas } from '../api/client'

/** From where checking and acting on a cause pay, and what that comes from. */
export function ActingPays({ marks: m, p, words, currency }: { marks: Schemas['Marks']; p?: number; words: Words; currency: string }) {
  const money = (x: number) => `${Math.round(x)} ${currency}`
  const looks = m.check_to > m.check_from
  const call =
    p === undefined ? '' : p >= m.check_to ? 'Acting pays now.' : p >= m.check_from ? 'Checking first pays.' : 'Not worth a check yet.'
  return (
    <div className="acting-pays">
      <p>
        {call && <b>{call} </b>}
        {words.action.get(m.remedy)?.label ?? m.remedy} pays from <b className="num">{percent(m.act)} %</b>
        {looks && (
          <>
            ; {words.findingLabel(m.check).toLowerCase()} first, between <b className="num">{percent(m.check_from)}</b> and{' '}
            <b className="num">{percent(m.check_to)} %</b>
          </>
        )}
        .
      </p>
      <dl>
        <div>
          <dt>Right</dt>
          <dd className="num">saves {money(m.benefit)}</dd>
        </div>
        <div>
          <dt>Wrong</dt>
          <dd className="num">costs {money(m.harm)}</dd>
        </div>
        <div>
          <dt>Price</dt>
          <dd className="num">
            {money(m.price)}
            {looks && `, the check ${money(m.check_price)}`}
          </dd>
        </div>
      </dl>
      <p className="faint">
        On {show(m.area_m2, 'm2', words.system)} of damage, by the firm's prices. Wrong means: {m.why}.
      </p>
    </div>
  )
}
