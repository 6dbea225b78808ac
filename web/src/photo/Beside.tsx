import { useEffect, useState } from 'react'
import { useQuery } from '@tanstack/react-query'
import type { Schemas } from '../api/client'
import { showDate, type DateForm } from '../format'
import { changeSaid, firstPair, pairable, type Pair } from './pairs'
import { zonePhotosQuery } from './queries'
import { shareSaid } from './words'
import './photo.css'

type Photo = Schemas['Photo']

/** Two pictures of one spot, one over the other: drawn across with a slider, or blinking. */
export function Beside({ zone, form }: { zone: string; form: DateForm }) {
  const list = useQuery({ ...zonePhotosQuery(zone), enabled: zone !== '' }).data?.photos ?? []
  const [picked, setPicked] = useState<Pair>()
  const pair = picked ?? firstPair(list)
  if (!pair) return null
  const own = pairable(list, pair.before.spot)
  return (
    <section className="beside-photos" aria-label="Pictures side by side">
      <h2>Before and after</h2>
      <Over pair={pair} form={form} />
      {changeSaid(pair).map((t) => (
        <p key={t}>{t}</p>
      ))}
      {own.length > 2 && (
        <div className="fields">
          <Which label="Before" list={own} value={pair.before} form={form} onPick={(before) => setPicked({ ...pair, before })} />
          <Which label="After" list={own} value={pair.after} form={form} onPick={(after) => setPicked({ ...pair, after })} />
        </div>
      )}
    </section>
  )
}

const said = (p: Photo, form: DateForm): string =>
  `${showDate(p.taken_at.slice(0, 10), form)}${p.cover === undefined ? '' : `, ${shareSaid(p.cover, p.error ?? 0)}`}`

function Which({
  label,
  list,
  value,
  form,
  onPick,
}: {
  label: string
  list: Photo[]
  value: Photo
  form: DateForm
  onPick: (p: Photo) => void
}) {
  return (
    <label className="field">
      <span>{label}</span>
      <select
        aria-label={label}
        value={value.id}
        onChange={(e) => {
          const p = list.find((x) => x.id === e.target.value)
          if (p) onPick(p)
        }}
      >
        {list.map((p) => (
          <option key={p.id} value={p.id}>
            {said(p, form)}
          </option>
        ))}
      </select>
    </label>
  )
}

function Over({ pair, form }: { pair: Pair; form: DateForm }) {
  const [across, setAcross] = useState(50)
  const [blinking, setBlinking] = useState(false)
  const [second, setSecond] = useState(false)
  useEffect(() => {
    if (!blinking) return
    const t = setInterval(() => setSecond((s) => !s), 900)
    return () => clearInterval(t)
  }, [blinking])
  const cut = blinking ? (second ? 0 : 100) : across
  return (
    <>
      <div className="over" style={{ aspectRatio: `${pair.after.width} / ${pair.after.height}` }}>
        <img src={`/api/v1/photos/${pair.after.id}/picture`} alt={`After: ${said(pair.after, form)}`} />
        <img
          src={`/api/v1/photos/${pair.before.id}/picture`}
          alt={`Before: ${said(pair.before, form)}`}
          style={{ clipPath: `inset(0 ${100 - cut}% 0 0)` }}
        />
        <span className="over-edge" style={{ left: `${cut}%` }} />
        <span className="over-label num">{said(pair.before, form)}</span>
        <span className="over-label num" data-after>
          {said(pair.after, form)}
        </span>
      </div>
      <p className="over-tools">
        <input
          type="range"
          min="0"
          max="100"
          value={across}
          disabled={blinking}
          aria-label="Before on the left, after on the right"
          onChange={(e) => setAcross(Number(e.target.value))}
        />
        <button type="button" className="answer" aria-pressed={blinking} onClick={() => setBlinking(!blinking)} data-blink>
          Blink
        </button>
      </p>
    </>
  )
}
