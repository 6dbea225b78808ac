import { useEffect, useRef, useState } from 'react'
import { fromSI, unitFor, type UnitSystem } from '../format'
import { probes, type Probe } from './devices'
import { settling, type Quantity, type Reading } from './settle'

const kept = 600 // readings that are looked at: some minutes of them

/** Reads a check off a probe: the value as it settles, taken over with one press. */
export function FromProbe({
  quantity,
  spot,
  units,
  demo,
  disabled,
  onTake,
}: {
  quantity: Quantity
  /** what tells one spot from another; only a simulated probe looks at it */
  spot: string
  units: UnitSystem
  demo: boolean
  disabled: boolean
  onTake: (value: number) => void
}) {
  const [probe, setProbe] = useState<Probe>()
  const [readings, setReadings] = useState<Reading[]>([])
  const [problem, setProblem] = useState('')
  const letGo = useRef<() => void>(undefined)
  useEffect(() => () => letGo.current?.(), [])

  const close = () => {
    letGo.current?.()
    letGo.current = undefined
    setProbe(undefined)
    setReadings([])
  }
  const open = async (p: Probe) => {
    setProblem('')
    setProbe(p)
    try {
      letGo.current = await p.open(
        (q, value) => {
          const at = performance.now()
          if (q === quantity) setReadings((r) => [...r.slice(1 - kept), { value, at }])
        },
        () => {
          close()
          setProblem(`${p.name}: the connection is gone. Come closer and read again.`)
        },
      )
    } catch {
      close()
      setProblem(`${p.name}: none was found. Switch it on and hold it near.`)
    }
  }
  const list = probes(quantity, spot, demo)
  if (list.length === 0) return null
  const now = settling(readings, quantity)
  if (!probe)
    return (
      <>
        {list.map((p) => (
          <button
            key={p.name}
            type="button"
            className="quiet good-open"
            disabled={disabled}
            onClick={() => void open(p)}
            data-probe={p.simulated ? 'simulated' : 'bluetooth'}
          >
            Read the {p.name.toLowerCase()}
          </button>
        ))}
        {problem && (
          <p className="problem" role="alert">
            {problem}
          </p>
        )}
      </>
    )
  const unit = unitFor(quantity, units)
  const shown = now && `${Math.round((unit ? fromSI(now.value, quantity, units) : now.value) * 10) / 10} ${unit?.label ?? quantity}`
  return (
    <div className="good-spot probe" role="group" aria-label={probe.name}>
      <b>{probe.name}</b>
      <p className="probe-value num" aria-hidden>
        {shown ?? '—'}
      </p>
      <p role="status" data-settled={now?.settled ?? false}>
        {!now
          ? 'Waiting for the first reading.'
          : now.settled
            ? `Steady at ${shown ?? ''}.`
            : now.left === undefined
              ? 'Still moving.'
              : `Still moving: about ${Math.max(5, Math.ceil(now.left / 5000) * 5)} s more.`}
      </p>
      <p className="buttons">
        <button
          type="button"
          className="offer"
          disabled={disabled || !now}
          onClick={() => {
            if (now) onTake(now.value)
            close()
          }}
          data-take-reading
        >
          {now?.settled ? 'Take' : 'Take it as it is'} <b>{shown}</b>
        </button>
        <button type="button" className="quiet" onClick={close}>
          Close
        </button>
      </p>
    </div>
  )
}
