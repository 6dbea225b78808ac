import { useCallback, useMemo, useState } from 'react'
import type { Schemas } from '../api/client'
import { newId } from '../api/queries'
import type { Answered, Plain } from './Check'
import { outbox } from './box'
import { useOutbox } from './outbox'

/** What was found at the good spot is told apart by this ending. */
export const healthy = '@healthy'

export type Answers = Map<string, Answered>
export type Answer = (check: string, value: Plain, how?: How) => void

/** How a figure came about: as it was typed, or counted place by place. */
export interface How {
  entered?: { amount: number; unit: string }
  tally?: Schemas['Tally']
}

/** One step that can be taken back: what stood before, check by check. */
type Step = { check: string; before: Plain; tally?: Schemas['Tally'] | undefined }[]

const same = (a: Plain, b: Plain) => JSON.stringify(a) === JSON.stringify(b)

/** What stands in a zone on a visit, on this device and on the server; answering it, and taking that back. */
export function useAnswers(visit: string, zone: string, scales: Schemas['Scales'] | undefined, may: boolean) {
  const box = useOutbox(outbox)
  const [steps, setSteps] = useState<{ key: string; list: Step[] }>({ key: '', list: [] })
  const key = `${visit}/${zone}`
  const done = steps.key === key ? steps.list : []

  const answers: Answers = useMemo(() => {
    const out: Answers = new Map()
    const at = (finding: string, spot?: string) => (spot === 'worst' ? finding : finding + healthy)
    for (const a of scales?.answers ?? [])
      out.set(at(a.finding, a.spot), { value: a.value as Plain, state: 'saved', by: a.by, tally: a.tally, other: a.other })
    for (const k of box.waiting)
      if (k.visit === visit && k.zone === zone)
        out.set(at(k.answer.finding, k.answer.spot), {
          value: (k.answer.value ?? null) as Plain,
          state: 'here',
          by: '',
          tally: k.answer.tally,
        })
    // what was refused does not count: the check shows what stands, and says so
    for (const k of box.refused)
      if (k.visit === visit && k.zone === zone)
        out.set(at(k.answer.finding, k.answer.spot), {
          value: null,
          by: '',
          ...out.get(at(k.answer.finding, k.answer.spot)),
          state: 'refused',
        })
    return out
  }, [scales, box.waiting, box.refused, visit, zone])

  const seq = scales?.seq ?? 0
  const put = useCallback(
    (check: string, value: Plain, how: How = {}) => {
      const good = check.endsWith(healthy)
      outbox.put({
        visit,
        zone,
        answer: {
          id: newId(),
          finding: good ? check.slice(0, -healthy.length) : check,
          spot: good ? 'healthy' : 'worst',
          value: value as never,
          base: seq,
          ...how,
        },
      })
    },
    [visit, zone, seq],
  )
  const keep = useCallback((step: Step) => setSteps((s) => ({ key, list: [...(s.key === key ? s.list : []), step].slice(-50) })), [key])
  const standing = useCallback((check: string): Plain => answers.get(check)?.value ?? null, [answers])

  const answer: Answer = useCallback(
    (check, value, how) => {
      const tally = answers.get(check)?.tally
      const again = same(standing(check), value) && JSON.stringify(how?.tally) === JSON.stringify(tally)
      // the same again says which of two people's answers is right
      if (!may || (again && !answers.get(check)?.other)) return
      keep([{ check, before: standing(check), tally }])
      put(check, value, how)
    },
    [may, keep, put, standing, answers],
  )
  /** Several answers as one step, taken back together. */
  const answerAll = useCallback(
    (list: { check: string; value: Plain; how?: How | undefined }[]) => {
      if (!may || list.length === 0) return
      keep(list.map((x) => ({ check: x.check, before: standing(x.check) })))
      for (const x of list) put(x.check, x.value, x.how)
    },
    [may, keep, put, standing],
  )
  const last = done.at(-1)
  const undo = useCallback(() => {
    if (!last) return
    for (const x of last) put(x.check, x.before, x.tally ? { tally: x.tally } : {})
    setSteps((s) => ({ key: s.key, list: s.list.slice(0, -1) }))
  }, [last, put])

  return { answers, answer, answerAll, undo, last: last?.map((x) => x.check) ?? [], waiting: box.waiting.length }
}
