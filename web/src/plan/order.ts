import type { Schemas } from '../api/client'

type Line = Schemas['ActionLine']

/** The lines in the order of work; those of one rank keep their places. */
export const inOrder = (lines: Line[]): Line[] => [...lines].sort((a, b) => a.order - b.order)

/** A plan as it is read: what to do, what collides, what is checked, waits or comes later, and what not to do. */
export interface Read {
  now: Line[]
  check: Line[]
  wait: Line[]
  later: Line[]
  /** What somebody may be tempted to, with the reason why not. */
  leave: Line[]
  /** What nothing found calls for: named, not explained. */
  idle: Line[]
}

export function read(actions: Line[]): Read {
  const of = (verdict: Line['verdict']) => inOrder(actions.filter((a) => a.verdict === verdict && !a.as))
  const first = (a: Line) => a.from ?? a.until ?? '9999'
  const avoid = of('avoid')
  return {
    now: of('do-now'),
    check: of('check-first'),
    wait: of('hold'),
    later: of('schedule').sort((a, b) => first(a).localeCompare(first(b))),
    leave: avoid.filter((a) => a.called),
    idle: avoid.filter((a) => !a.called),
  }
}
