import type { Schemas } from '../api/client'

type Within = Schemas['Call']['within']

/** How soon somebody has to come. */
export const withinSaid: Record<Within, string> = {
  today: 'Today or tomorrow',
  'this-week': 'This week',
  'next-tour': 'Next round',
}

/** By when, in days from when it was told: what a new visit is booked for unless somebody says otherwise. */
export const withinDays: Record<Within, number> = { today: 0, 'this-week': 3, 'next-tour': 14 }

/** What makes it urgent, in one line; nothing where nothing does. */
export function becauseSaid(list: Schemas['FastCause'][], cause: (id: string) => string): string {
  const [first, ...rest] = list
  if (!first) return ''
  const more = rest.length > 0 ? `, or ${rest.map((f) => cause(f.cause).toLowerCase()).join(' or ')}` : ''
  const days = Math.round(first.doubles)
  return `Could be ${cause(first.cause).toLowerCase()}${more}: the damage can double in ${days === 1 ? 'a day' : `${days} days`}`
}
