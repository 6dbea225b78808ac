import type { Schemas } from '../api/client'
import { showDate } from '../format'

const kinds: Record<Schemas['Stop']['kind'], string> = {
  law: 'Law',
  label: 'Label',
  agronomy: 'Agronomy',
  policy: 'Policy',
  'not-possible': 'Not possible',
}

const hour = (iso: string, form: Schemas['Me']['date_form']): string => {
  const time = iso.slice(11, 16)
  return showDate(iso.slice(0, 10), form, true) + (time === '00:00' ? '' : `, ${time}`)
}

/** What stands against a job, the law first: its kind in words, why, what lifts it and when the way is open. */
export function Stops({ stops, form }: { stops: Schemas['Stop'][]; form: Schemas['Me']['date_form'] }) {
  return (
    <ul className="stops">
      {stops.map((s) => (
        <li key={s.id + s.text} data-stop={s.id} data-kind={s.kind}>
          <b className="stop-kind">{kinds[s.kind]}</b>
          <span>
            {s.text.charAt(0).toUpperCase() + s.text.slice(1)}. <span className="faint">{s.rule}.</span>
            {s.next ? (
              <>
                {' '}
                Open from <b className="num">{hour(s.next, form)}</b>.
              </>
            ) : (
              s.lifts && <> Lifted by: {s.lifts}.</>
            )}
          </span>
        </li>
      ))}
    </ul>
  )
}
