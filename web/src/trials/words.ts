import type { Schemas } from '../api/client'

/** What the area under the curve does not show, said plainly. */
export const cautionSaid: Record<Schemas['TrialRead']['cautions'][number], string> = {
  'few-days': 'Some plots were read on fewer than four days: the curve between them is a guess.',
  'few-plots': 'A treatment has a single plot: nothing can be said of chance. Lay out two or more of each.',
  crosses: 'The area hides this: by the whole curve one is better, on the last day the other.',
  'at-the-end': 'The area hides this: over the whole time they are alike, on the last day they are not.',
  gaps: 'There is a long gap between two days: what happened in it is not known.',
  voided: 'Plots that something happened to are left out.',
  'none-sick': 'The untreated plots hardly had anything: there was nothing to keep away.',
}

/** How a treatment is called. */
export const treatmentSaid = (g: { treatment: string; dose: number }, unit: string): string =>
  g.treatment === '' ? 'Untreated' : g.dose > 0 ? `${g.treatment}, ${g.dose}${unit ? ` ${unit}` : ''}` : g.treatment

/** How much a treatment kept away, with how well that is known. */
export function suppressionSaid(s: Schemas['TrialInterval'] | undefined): string {
  if (!s) return ''
  const kept = s.value >= 0 ? `${Math.round(s.value)} % less` : `${Math.round(-s.value)} % more`
  if (s.open) return `${kept}; how sure that is cannot be said`
  if (s.low > 0) return `${kept} (${Math.round(s.low)} to ${Math.round(s.high)} %)`
  if (s.high < 0) return `${kept} (${Math.round(-s.high)} to ${Math.round(-s.low)} %)`
  return `${kept}, which may be chance (${Math.round(-s.low)} % more to ${Math.round(s.high)} % less)`
}

export interface Wanted {
  treatment: string
  dose: number
}

/** The plots of a layout: every treatment once in each repeat, one place on from repeat to repeat, so that none lies on one side. */
export function plotsFor(wanted: Wanted[], repeats: number): { name: string; treatment: string; dose: number }[] {
  const all = [{ treatment: '', dose: 0 }, ...wanted]
  const out: { name: string; treatment: string; dose: number }[] = []
  for (let r = 0; r < repeats; r++)
    for (let i = 0; i < all.length; i++) {
      const t = all[(i + r) % all.length]
      if (t) out.push({ name: String(out.length + 1), ...t })
    }
  return out
}

export interface Curve {
  key: string
  untreated: boolean
  points: [day: number, percent: number][]
}

const daysApart = (from: string, to: string) => Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000)

/** The mean of each treatment by day, of plots that count. */
export function curves(t: Schemas['Trial']): Curve[] {
  const by = new Map<string, Map<number, number[]>>()
  for (const p of t.plots) {
    if (p.void) continue
    const key = `${p.treatment ?? ''}\u0000${p.dose ?? 0}`
    const days = by.get(key) ?? new Map<number, number[]>()
    by.set(key, days)
    for (const r of p.readings ?? []) {
      if (r.kind !== 'affected') continue
      const day = daysApart(t.began_on, r.on)
      days.set(day, [...(days.get(day) ?? []), r.value])
    }
  }
  return [...by].map(([key, days]) => ({
    key,
    untreated: key.startsWith('\u0000'),
    points: [...days].sort(([a], [b]) => a - b).map(([d, v]) => [d, v.reduce((s, x) => s + x, 0) / v.length] as [number, number]),
  }))
}
