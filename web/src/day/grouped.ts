import type { Schemas } from '../api/client'

type Notice = Schemas['DayNotice']

/** The same thing told of several lawns. */
export interface Group {
  key: string
  kind: Notice['kind']
  subject: string
  level: number
  notices: Notice[]
  /** The reason, where it is the same for all; empty where each lawn has its own. */
  reason: string
}

/** Puts the notices of one thing together, in the order in which they come; lawns that had it before go first. */
export function grouped(notices: Notice[]): Group[] {
  const groups = new Map<string, Notice[]>()
  for (const n of notices) {
    const key = `${n.kind} ${n.subject}`
    groups.set(key, [...(groups.get(key) ?? []), n])
  }
  return [...groups].flatMap(([key, list]) => {
    const [first] = list
    if (!first) return []
    const same = list.every((n) => n.reason === first.reason)
    return [
      {
        key,
        kind: first.kind,
        subject: first.subject,
        level: Math.max(...list.map((n) => n.level)),
        notices: [...list].sort((a, b) => b.level - a.level),
        reason: same && list.length > 1 ? first.reason : '',
      },
    ]
  })
}
