import { useQuery } from '@tanstack/react-query'
import { queryClient } from '../api/queries'
import type { Schemas } from '../api/client'
import { scalesDoor } from './door'

/** The state of a zone, and where each cause stood before the last answer. */
export interface Weighed {
  now: Schemas['Scales']
  before: Map<string, number>
}

const key = (visit: string, zone: string) => ['scales', visit, zone]
const standing = (s: Schemas['Scales']) => new Map(s.diagnosis.causes.map((c) => [c.id, c.probability]))

export const scalesQuery = (visit: string, zone: string) => ({
  queryKey: key(visit, zone),
  queryFn: async (): Promise<Weighed> => {
    const now = await scalesDoor.read(visit, zone)
    return { now, before: standing(now) }
  },
})

export const useScales = (visit: string, zone: string) => useQuery({ ...scalesQuery(visit, zone), enabled: zone !== '' })

/** Puts a newer state in the place of the old one; an older one that arrives late changes nothing. */
export function weighedAnew(visit: string, zone: string, now: Schemas['Scales']): void {
  queryClient.setQueryData<Weighed>(key(visit, zone), (old) => {
    if (old && old.now.seq > now.seq) return old
    return { now, before: standing(old?.now ?? now) }
  })
}
