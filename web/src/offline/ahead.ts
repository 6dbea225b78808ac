import { useEffect, useState } from 'react'
import type { Schemas } from '../api/client'
import { offersQuery, protocolsQuery, queryClient, recoveryQuery, visitQuery } from '../api/queries'
import { scalesQuery } from '../scales/useScales'
import { gridQuery } from '../ground/queries'
import { caseQuery } from './cases'
import { askToKeep } from './device'

const most = 15 // visits of a day that are fetched ahead (judgement: more than anybody drives)

const fresh = { staleTime: 10 * 60_000 } // nobody's day changes faster, and a firm's people do not ask for theirs all the time

/** Fetches one visit with all that it needs without a connection. */
async function fetchVisit(id: string): Promise<void> {
  const detail = await queryClient.query({ ...visitQuery(id), ...fresh })
  for (const z of detail.site.zones ?? []) {
    await queryClient.query({ ...scalesQuery(id, z.id), ...fresh })
    await queryClient.query(caseQuery(id, z.id))
    await queryClient.query({ ...offersQuery(id, z.id), ...fresh })
    await queryClient.query({ ...gridQuery(id, z.id), ...fresh })
    await queryClient.query({ ...recoveryQuery(z.id), ...fresh })
  }
}

/** Whether a visit was fetched before, so that it can be done as it lies here. */
function lies(id: string): boolean {
  const detail = queryClient.getQueryData<Schemas['VisitDetail']>(visitQuery(id).queryKey)
  return detail?.site.zones?.every((z) => queryClient.getQueryData(caseQuery(id, z.id).queryKey) !== undefined) ?? false
}

async function fetchAll(ids: string[], left: AbortSignal, done: (n: number) => void): Promise<void> {
  void askToKeep()
  void queryClient.query(protocolsQuery).catch(() => undefined)
  let n = 0
  for (const id of ids) {
    if (left.aborted || id === '') return
    try {
      await fetchVisit(id)
    } catch {
      if (!lies(id)) continue
    }
    n += 1
    done(n)
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
