import { useEffect, useRef, useState } from 'react'
import { keepLit, setBell } from '../ui/ring'
import { useKept } from './useKept'

const asNumber = (x: unknown) => (typeof x === 'number' ? x : undefined)

const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`

function useTick(running: boolean): number {
  const [now, setNow] = useState(() => Date.now())
  useEffect(() => {
    if (!running) return
    const tick = () => setNow(Date.now())
    const first = setTimeout(tick)
    const t = setInterval(tick, 250)
    document.addEventListener('visibilitychange', tick)
    return () => {
      clearTimeout(first)
      clearInterval(t)
      document.removeEventListener('visibilitychange', tick)
    }
  }, [running])
  return now
}

/** Waits so many seconds and rings. What runs is the time of day at which it is over: a locked screen or a closed page does not stop it. */
export function Countdown({ keep, seconds }: { keep: string; seconds: number }) {
  const [due, setDue] = useKept(`hodos-watch-${keep}`, asNumber)
  const now = useTick(due !== undefined)
  const off = useRef<(() => void)[]>([])
  const left = due === undefined ? 0 : Math.max(0, Math.ceil((due - now) / 1000))
  const rung = due !== undefined && now >= due
  useEffect(() => {
    if (!rung) return
    if ('vibrate' in navigator) navigator.vibrate([300, 150, 300, 150, 300])
  }, [rung])
  const quiet = () => {
    for (const f of off.current) f()
    off.current = []
  }
  if (due === undefined)
    return (
      <button
        type="button"
        className="stopwatch"
        data-watch="start"
        onClick={() => {
          setDue(Date.now() + seconds * 1000)
          off.current.push(setBell(seconds))
          void keepLit().then((f) => off.current.push(f))
        }}
      >
        Start {Math.round(seconds / 60)} minutes
      </button>
    )
  return (
    <button
      type="button"
      className="stopwatch"
      data-watch={rung ? 'over' : 'runs'}
      onClick={() => {
        quiet()
        setDue(undefined)
      }}
    >
      <b className="num">{rung ? 'Time is up' : clock(left)}</b>
      <small>{rung ? `${clock((now - due) / 1000)} ago · put away` : 'stop'}</small>
    </button>
  )
}

/** Counts up from a press to the next, and hands over whole seconds. */
export function Stopwatch({
  keep,
  label,
  disabled,
  onStop,
}: {
  keep: string
  label: string
  disabled: boolean
  onStop: (seconds: number) => void
}) {
  const [from, setFrom] = useKept(`hodos-watch-${keep}`, asNumber)
  const now = useTick(from !== undefined)
  return (
    <button
      type="button"
      className="stopwatch"
      data-watch={from === undefined ? 'start' : 'runs'}
      disabled={disabled}
      onClick={() => {
        if (from === undefined) return setFrom(Date.now())
        setFrom(undefined)
        onStop(Math.round((Date.now() - from) / 1000))
      }}
    >
      {from === undefined ? (
        label
      ) : (
        <>
          <b className="num">{clock(Math.max(0, now - from) / 1000)}</b> <small>gone</small>
        </>
      )}
    </button>
  )
}
