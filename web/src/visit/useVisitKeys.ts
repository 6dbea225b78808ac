import { useEffect, useRef } from 'react'
import type { Schemas } from '../api/client'
import type { Plain } from './Check'
import { answerAt, typing } from './keys'

interface Doing {
  checks: Schemas['VFinding'][]
  /** the check in hand */
  current: Schemas['VFinding'] | undefined
  /** its answers in the order of their keys; none for a number */
  choices: { value: Plain }[]
  answer: (check: string, value: Plain) => void
  pick: (check: string) => void
  stepStation: (by: number) => void
  next: (() => void) | undefined
  close: () => void
  ledger: () => void
  plan: () => void
  otherZone: () => void
  undo: () => void
}

const figures = /^[\d-]$/

/** What a key does on a visit, or nothing where it means nothing. */
function meaning(key: string, d: Doing, current: Schemas['VFinding']): (() => void) | undefined {
  const at = d.checks.indexOf(current)
  const step = (by: number) => d.pick(d.checks[Math.max(0, Math.min(d.checks.length - 1, at + by))]?.id ?? '')
  const choice = d.choices[answerAt(key)]
  switch (key) {
    case 'j':
    case 'ArrowDown':
      return () => step(1)
    case 'k':
    case 'ArrowUp':
      return () => step(-1)
    case ']':
    case 'ArrowRight':
      return () => d.stepStation(1)
    case '[':
    case 'ArrowLeft':
      return () => d.stepStation(-1)
    case 'n':
      return d.next
    case 'l':
      return d.ledger
    case 'p':
      return d.plan
    case 'z':
      return d.otherZone
    case '0':
    case 'Backspace':
      return () => d.answer(current.id, null)
  }
  return (
    choice &&
    (() => {
      d.answer(current.id, choice.value)
      if (current.kind !== 'any-of' && current.kind !== 'cause-ids') step(1)
    })
  )
}

/** Keys work a visit without a pointer, but never while somebody types into a field. */
export function useVisitKeys(doing: Doing): void {
  const now = useRef(doing)
  useEffect(() => {
    now.current = doing
  })
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      const d = now.current
      if (e.key === 'Escape') d.close()
      if ((e.ctrlKey || e.metaKey) && e.key === 'z' && !typing(e.target)) {
        d.undo()
        e.preventDefault()
        return
      }
      if (typing(e.target) || e.ctrlKey || e.metaKey || e.altKey || !d.current) return
      if (d.current.kind === 'number' && figures.test(e.key) && e.key !== '0') {
        // the figure itself goes into the field
        document.querySelector<HTMLInputElement>(`[data-finding="${d.current.id}"] .number-field`)?.focus({ preventScroll: true })
        return
      }
      const act = meaning(e.key, d, d.current)
      if (!act) return
      act()
      e.preventDefault()
    }
    addEventListener('keydown', onKey)
    return () => removeEventListener('keydown', onKey)
  }, [])
}
