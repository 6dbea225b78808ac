import { dehydrate, hydrate, type DehydratedState, type Query, type QueryClient } from '@tanstack/react-query'
import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Schemas } from '../api/client'

/** What a day's visits need without a connection; everything else is asked of the server. */
const remembered = new Set([
  'me',
  'vocabulary',
  'protocols',
  'day',
  'visit',
  'scales',
  'offers',
  'case',
  'zone-jobs',
  'bench',
  'recovery',
  'grid',
  'photos',
  'notes',
])

/** A day and a night: what is older is not trusted, and not left lying on a device (judgement). */
const longest = 36 * 3600 * 1000

type Dehydrated = DehydratedState['queries'][number]

interface Row {
  hash: string
  query: Dehydrated
  at: number
}

interface Device extends DBSchema {
  queries: { key: string; value: Row }
}

/** What the server has said, kept on the device for its person until they sign out or are signed out. */
export class Memory {
  private readonly db: Promise<IDBPDatabase<Device>>
  private readonly client: QueryClient
  private pending = new Map<string, Query>()
  private timed = false

  constructor(client: QueryClient, name = 'hodos-memory') {
    this.client = client
    this.db = openDB<Device>(name, 1, {
      upgrade(db) {
        db.createObjectStore('queries', { keyPath: 'hash' })
      },
    })
    this.db.catch(() => undefined) // a device that keeps nothing works with a connection
  }

  /** Brings back what was kept, before the first page is drawn. */
  async recall(now = Date.now()): Promise<void> {
    try {
      const db = await this.db
      const rows = await db.getAll('queries')
      const fresh = rows.filter((r) => now - r.at < longest)
      for (const r of rows) if (!fresh.includes(r)) await db.delete('queries', r.hash)
      if (fresh.some((r) => r.query.queryKey[0] === 'me'))
        hydrate(this.client, { mutations: [], queries: fresh.map((r) => asOld(r.query)) })
    } catch {
      // as if nothing had been kept
    }
  }

  /** Keeps what comes in from now on. */
  watch(): void {
    this.client.getQueryCache().subscribe((e) => {
      if (e.type !== 'updated' || e.action.type !== 'success') return
      const query = e.query as Query
      if (!remembered.has(String(query.queryKey[0]))) return
      this.pending.set(query.queryHash, query)
      if (this.timed) return
      this.timed = true
      setTimeout(() => void this.write(), 300)
    })
  }

  private async write() {
    this.timed = false
    const list = [...this.pending.values()]
    this.pending = new Map()
    const state = dehydrate(this.client, { shouldDehydrateQuery: (q) => list.includes(q), shouldDehydrateMutation: () => false })
    try {
      const tx = (await this.db).transaction('queries', 'readwrite')
      for (const query of state.queries) await tx.store.put({ hash: query.queryHash, query: withoutToken(query), at: Date.now() })
      await tx.done
    } catch {
      // full, or forbidden: the page goes on
    }
  }

  /** Nobody is signed in here any more: nothing of the firm stays. */
  async forget(): Promise<void> {
    this.pending = new Map()
    try {
      await (await this.db).clear('queries')
    } catch {
      // there is nothing then
    }
  }
}

/** What comes from the device is shown at once, and asked for anew as soon as it is used. */
const asOld = (query: Dehydrated): Dehydrated => ({ ...query, state: { ...query.state, dataUpdatedAt: 1 } })

/** The token of a session is not kept: a page that was opened without a connection asks for it once there is one. */
function withoutToken(query: Dehydrated): Dehydrated {
  if (query.queryKey[0] !== 'me') return query
  const me = query.state.data as Schemas['Me']
  return { ...query, state: { ...query.state, data: { ...me, csrf: '' } } }
}
