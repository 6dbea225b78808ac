import type { Schemas } from '../api/client'

type Job = Schemas['Job']

export interface Week {
  /** "late", "this", "next", or the Monday. */
  name: string
  minutes: number
  jobs: Job[]
  days: { day: string; jobs: Job[] }[]
}

/** A day some days later, as YYYY-MM-DD. */
export function later(day: string, by: number): string {
  return new Date(Date.parse(`${day}T00:00:00Z`) + by * 86_400_000).toISOString().slice(0, 10)
}

/** The Monday of a day's week. */
export function monday(day: string): string {
  const weekday = new Date(Date.parse(`${day}T00:00:00Z`)).getUTCDay()
  return later(day, -((weekday + 6) % 7))
}

/** Jobs in the order of their days, by week: what is late, this week, next week, then by the week's Monday. */
export function weeks(jobs: Job[], today: string): Week[] {
  const out: Week[] = []
  const now = today ? monday(today) : ''
  for (const j of jobs) {
    const due = j.due_on ?? ''
    if (!due) continue
    const first = monday(due)
    const name = due < today ? 'late' : first === now ? 'this' : first === later(now, 7) ? 'next' : first
    let week = out.at(-1)
    if (week?.name !== name) {
      week = { name, minutes: 0, jobs: [], days: [] }
      out.push(week)
    }
    let day = week.days.at(-1)
    if (day?.day !== due) {
      day = { day: due, jobs: [] }
      week.days.push(day)
    }
    day.jobs.push(j)
    week.jobs.push(j)
    week.minutes += j.minutes
  }
  return out
}
