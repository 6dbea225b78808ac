import { useEffect, useRef, useState } from 'react'
import { between, type Degree, type Frame } from './grid'

type Damage = Map<number, Degree>

/** Lays a degree of damage over squares of the lawn, or takes it off them. */
function put(lawn: boolean[], degree: Degree | 0, over: number[], on: Damage): Damage {
  const next = new Map(on)
  for (const c of over)
    if (lawn[c])
      if (degree) next.set(c, degree)
      else next.delete(c)
  return next
}

/**
 * Marking by strokes: what is drawn is shown at once and handed to keep at the end of a stroke; what is kept takes its place when it
 * has caught
 * up. The degree that stands already is taken off by the same. Events come faster than the page is drawn anew: they read what is newest.
 */
export function useStrokes(frame: Frame, lawn: boolean[], kept: Damage, keep: (next: Damage) => void) {
  const [shown, setShown] = useState<{ over: Damage; damage: Damage }>()
  const latest = useRef(kept)
  const hand = useRef<{ last: number; degree: Degree | 0 } | undefined>(undefined)
  useEffect(() => {
    latest.current = kept
  }, [kept])
  const show = (next: Damage) => {
    latest.current = next
    setShown({ over: kept, damage: next })
  }
  const against = (cell: number, degree: Degree): Degree | 0 => (latest.current.get(cell) === degree ? 0 : degree)
  return {
    damage: shown?.over === kept ? shown.damage : kept,
    begin: (cell: number, degree: Degree) => {
      hand.current = { last: cell, degree: against(cell, degree) }
      show(put(lawn, hand.current.degree, [cell], latest.current))
    },
    go: (cell: number) => {
      const h = hand.current
      if (!h || cell === h.last) return
      show(put(lawn, h.degree, between(frame, h.last, cell), latest.current))
      h.last = cell
    },
    end: () => {
      if (hand.current) keep(latest.current)
      hand.current = undefined
    },
    cancel: () => {
      if (hand.current) show(kept)
      hand.current = undefined
    },
    mark: (cell: number, degree: Degree) => {
      show(put(lawn, against(cell, degree), [cell], latest.current))
      keep(latest.current)
    },
  }
}
