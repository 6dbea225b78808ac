import { useSyncExternalStore } from 'react'
import { Refused, type Schemas } from '../api/client'
import type { ScalesDoor } from '../scales/door'

/** One answer on its way: where it belongs, and what it says. */
export interface Waiting {
  visit: string
  zone: string
  answer: Schemas['NewAnswer']
}

export interface OutboxState {
  waiting: Waiting[]
  /** What the server would not take, with its reason; it stays until the user has seen it. */
  refused: { item: Waiting; reason: string }[]
  offline: boolean
}

interface Keeper {
  getItem(key: string): string | null
  setItem(key: string, value: string): void
}

const storageKey = 'hodos-outbox'
const empty: OutboxState = { waiting: [], refused: [], offline: false }

function kept(keeper: Keeper): Waiting[] {
  try {
    const list: unknown = JSON.parse(keeper.getItem(storageKey) ?? '[]')
    return Array.isArray(list) ? (list as Waiting[]) : []
  } catch {
    return [] // what cannot be read cannot be sent
  }
}

/**
 * Every tap goes into the outbox first, which is kept on the device, and leaves it when the server has said that it is
 * saved. Keys are made here, so that sending twice does nothing twice. Answers of a zone go out in the order of the taps.
 */
export class Outbox {
  private state: OutboxState
  private readonly listeners = new Set<() => void>()
  private sending = false
  private readonly door: ScalesDoor
  private readonly keeper: Keeper
  private readonly onScales: (visit: string, zone: string, s: Schemas['Scales']) => void
  private readonly later: (f: () => void, ms: number) => void

  constructor(door: ScalesDoor, keeper: Keeper, onScales: (visit: string, zone: string, s: Schemas['Scales']) => void, later: (f: () => void, ms: number) => void = (f, ms) => void setTimeout(f, ms)) {
    this.door = door
    this.keeper = keeper
    this.onScales = onScales
    this.later = later
    this.state = { ...empty, waiting: kept(keeper) }
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f)
    return () => this.listeners.delete(f)
  }
  read = (): OutboxState => this.state

  private set(change: Partial<OutboxState>) {
    this.state = { ...this.state, ...change }
    this.keeper.setItem(storageKey, JSON.stringify(this.state.waiting))
    this.listeners.forEach((f) => f())
  }

  put(item: Waiting): void {
    this.set({ waiting: [...this.state.waiting, item] })
    void this.flush()
  }

  dismiss(): void {
    this.set({ refused: [] })
  }

  /** Sends what waits, a zone at a time, until nothing waits or the connection is lost. */
  async flush(): Promise<void> {
    if (this.sending) return
    this.sending = true
    let most = 100
    try {
      for (let first = this.state.waiting[0]; first; first = this.state.waiting[0]) {
        const { visit, zone } = first
        const batch: Waiting[] = []
        for (const w of this.state.waiting) {
          if (w.visit !== visit || w.zone !== zone || batch.length === most) break
          batch.push(w)
        }
        try {
          const scales = await this.door.answer(visit, zone, batch.map((w) => w.answer))
          this.set({ waiting: this.state.waiting.slice(batch.length), offline: false })
          this.onScales(visit, zone, scales)
        } catch (e) {
          if (e instanceof Refused && e.status !== 401 && e.status < 500) {
            // one of them is at fault: from here on each goes by itself
            if (batch.length > 1) most = 1
            else this.reject(first, e)
            continue
          }
          this.set({ offline: true })
          this.later(() => void this.flush(), 3000)
          return
        }
      }
    } finally {
      this.sending = false
    }
  }

  private reject(item: Waiting, e: Refused) {
    const reason = e.fields.map((f) => f.reason).join('; ') || e.message
    this.set({ waiting: this.state.waiting.slice(1), refused: [...this.state.refused, { item, reason }] })
  }
}

export function useOutbox(box: Outbox): OutboxState {
  return useSyncExternalStore(box.subscribe, box.read)
}
