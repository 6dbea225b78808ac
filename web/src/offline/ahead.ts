import { useEffect, useState } from 'react'
import { api, got, type Schemas } from '../api/client'
import { queryClient } from '../api/queries'
import { scalesDoor } from '../scales/door'
import type { Weighed } from '../scales/useScales'
import { caseQuery } from './cases'

const most = 15 // visits of a day that are fetched ahead (judgement: more than anybody drives)

/** Fetches one visit with all that it needs without a connection. */
async function fetchVisit(id: string): Promise<void> {
  const detail = await queryClient.query({
    queryKey: ['visit', id],
    queryFn: () => got(api.GET('/visits/{id}', { params: { path: { id } } })),
    staleTime: 60_000,
  })
  for (const z of detail.site.zones ?? []) {
    await queryClient.query({
      queryKey: ['scales', id, z.id],
      queryFn: async (): Promise<Weighed> => {
        const now = await scalesDoor.read(id, z.id)
        return { now, before: new Map(now.diagnosis.causes.map((c) => [c.id, c.probability])) }
      },
      staleTime: 60_000,
    })
    await queryClient.query(caseQuery(id, z.id))
    await queryClient.query({
      queryKey: ['offers', id, z.id],
      queryFn: () => got(api.GET('/visits/{id}/zones/{zone}/offers', { params: { path: { id, zone: z.id } } })),
      staleTime: 60_000,
    })
  }
}

async function fetchAll(ids: string[], left: AbortSignal, done: (n: number) => void): Promise<void> {
  for (const [i, id] of ids.entries()) {
    if (left.aborted || id === '') return
    try {
      await fetchVisit(id)
    } catch {
      return // without a connection what lies here already has to do
    }
    done(i + 1)
  }
}

/** Fetches the visits of the day one after the other, a little after the page stands; says how many lie on the device. */
export function useAhead(day: Schemas['Day'] | undefined): { done: number; of: number } {
  const ids = day?.due.slice(0, most).map((d) => d.visit.id) ?? []
  const list = ids.join()
  const [done, setDone] = useState(0)
  useEffect(() => {
    const left = new AbortController()
    const t = setTimeout(() => void fetchAll(list.split(','), left.signal, setDone), 1500)
    return () => {
      left.abort()
      clearTimeout(t)
    }
  }, [list])
  return { done: Math.min(done, ids.length), of: ids.length }
}
