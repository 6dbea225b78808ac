import type { Schemas } from '../api/client'
import { showDate, type DateForm } from '../format'

type Found = Schemas['ClientFound']
type Course = Schemas['ClientCourse']
type Task = Schemas['ClientTask']

const sure: Record<Found['sure'], string> = {
  sure: 'We are sure.',
  likely: 'Very likely.',
  probable: 'Most likely; we keep an eye on it.',
  open: 'Not settled yet.',
}
export const sureSaid = (f: Found): string => sure[f.sure]

const goes: Record<Course['verdict'], string> = {
  'not-yet': '',
  'on-course': 'It recovers as expected.',
  slow: 'It recovers more slowly than usual.',
  'off-course': 'It does not recover as expected. We look at it again.',
  recovered: 'It has recovered.',
}

/** When it should be green again, as far as that can be said. */
export function greenSaid(c: Course, form: DateForm): string {
  if (c.verdict === 'recovered') return ''
  if (c.due) return 'It should be green by now; we measure it at our next visit.'
  if (!c.green_on) return ''
  const between = c.early && c.late ? `, between ${showDate(c.early, form)} and ${showDate(c.late, form)}` : ''
  return `Green again about ${showDate(c.green_on, form)}${between}.`
}
export const courseSaid = (c: Course, form: DateForm): string => [goes[c.verdict], greenSaid(c, form)].filter(Boolean).join(' ')

/** When a task holds, seen from a day. */
export function whenSaid(t: Task, today: string, form: DateForm): string {
  if (!t.to) return 'for now'
  const to = showDate(t.to, form)
  if (t.from <= today) return t.to === today ? 'today' : `until ${to}`
  return t.from === t.to ? showDate(t.from, form) : `${showDate(t.from, form)} to ${to}`
}

const kinds: Record<Task['kind'], string> = {
  safety: 'Safety',
  water: 'Watering',
  mow: 'Mowing',
  feed: 'Feeding',
  ready: 'Before we come',
  tell: 'Tell us',
}
export const kindSaid = (t: Task): string => kinds[t.kind]

/** How long nobody goes on a lawn. */
export function closedSaid(c: Schemas['ClientClosed'], form: DateForm): string {
  if (c.wet || !c.until) return 'until it has been watered in and is dry again'
  return `until ${showDate(c.until.slice(0, 10), form)}, and until the grass is dry`
}

/** Whether there is anything to tell of a lawn. */
export const hasNews = (z: Schemas['ClientZone']): boolean =>
  Boolean(z.found ?? z.course ?? z.closed) || z.done.length + z.booked.length + z.tasks.length + z.pictures.length > 0
