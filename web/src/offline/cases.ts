import { useQuery, type QueryClient } from '@tanstack/react-query'
import { queryClient } from '../api/queries'
import { warmUp, weighHere, type Beside } from '../core/core'
import type { Kept } from '../visit/kept'
import type { Weighed } from '../scales/useScales'
import type { Schemas } from '../api/client'

/** A case as the server gave it, and the checks whose answers it knows. */
export interface CaseKept {
  file: string
  answered: { finding: string; spot: 'worst' | 'healthy' }[]
}

const scalesKey = (visit: string, zone: string) => ['scales', visit, zone]

async function readCase(visit: string, zone: string): Promise<CaseKept> {
  const r = await fetch(`/api/v1/visits/${visit}/zones/${zone}/case`, { credentials: 'same-origin' })
  if (!r.ok) throw new Error(`The server answered ${r.status}`)
  const file = await r.text()
  const known = queryClient.getQueryData<Weighed>(scalesKey(visit, zone))
  return { file, answered: known?.now.answers.map(({ finding, spot }) => ({ finding, spot })) ?? [] }
}

export const caseQuery = (visit: string, zone: string) => ({
  queryKey: ['case', visit, zone],
  queryFn: () => readCase(visit, zone),
  staleTime: 10 * 60_000,
})

/** Has the case of an open visit at hand, and the core warm, for when the connection is lost. */
export function useCase(visit: string, zone: string, system: string, scalesKnown: boolean): void {
  useQuery({
    ...caseQuery(visit, zone),
    enabled: zone !== '' && scalesKnown,
    queryFn: async () => {
      const c = await readCase(visit, zone)
      void warmUp(`${visit}/${zone}`, c.file, system)
      return c
    },
  })
}

/** Every answer that stands, in the order of the taps, laid over a case: what it knew and does not stand any more is taken back first. */
export function beside(known: CaseKept, saved: Schemas['Answered'][], waiting: Kept[]): Beside[] {
  return [
    ...known.answered.map((a) => ({ ...a, value: null })),
    ...saved.map((a) => ({ finding: a.finding, spot: a.spot, value: a.value, tally: a.tally })),
    ...waiting.map((k) => k.answer),
  ]
}

const weighed = new Map<string, string>()

/** Weighs a zone on this device with what waits to be sent, and puts that in the place of what the server said last. */
export async function weighWaiting(client: QueryClient, waiting: Kept[]): Promise<void> {
  const places = new Map<string, Kept[]>()
  for (const k of waiting) {
    const at = `${k.visit}/${k.zone}`
    places.set(at, [...(places.get(at) ?? []), k])
  }
  for (const at of weighed.keys()) if (!places.has(at)) weighed.delete(at)
  for (const [at, list] of places) {
    const mark = list.map((k) => k.id).join()
    if (weighed.get(at) === mark) continue
    weighed.set(at, mark)
    const [visit = '', zone = ''] = at.split('/')
    const known = client.getQueryData<CaseKept>(['case', visit, zone])
    const was = client.getQueryData<Weighed>(scalesKey(visit, zone))
    const me = client.getQueryData<Schemas['Me']>(['me'])
    if (!known || !was || !me) continue
    try {
      const diagnosis = await weighHere(at, known.file, me.unit_system, beside(known, was.now.answers, list))
      client.setQueryData<Weighed>(scalesKey(visit, zone), (old) =>
        old && old.now.seq === was.now.seq
          ? { now: { ...old.now, diagnosis }, before: new Map(old.now.diagnosis.causes.map((c) => [c.id, c.probability])) }
          : old,
      )
    } catch {
      weighed.delete(at) // the answers wait; the scales stand as they stood
    }
  }
}
