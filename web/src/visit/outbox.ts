import { useSyncExternalStore } from 'react'
import { Refused, type Schemas } from '../api/client'
import type { ScalesDoor } from '../scales/door'
import type { Kept, Keeper } from './kept'

/** Why something still waits. '' when nothing is in the way. */
export type Trouble = '' | 'offline' | 'busy' | 'sign-in' | 'other-person' | 'held'

export interface OutboxState {
  waiting: Kept[]
  /** What the server would not take, each with its reason; it stays until the person has put it away. */
  refused: Kept[]
  trouble: Trouble
  /** the server's own words, when some answers are held back */
  reason: string
  /** this browser stores nothing: what is not sent is gone with the page */
  unsafe: boolean
}

/** What the box needs of the world around it. */
export interface Surroundings {
  door: ScalesDoor
  keeper: Keeper
  /** Whose token the next request would carry; the empty string when nobody's. */
  session: () => string
  /** Asks the server whose session this is now and takes its token; the empty string when nobody is signed in. */
  renew: () => Promise<string>
  onScales: (visit: string, zone: string, s: Schemas['Scales']) => void
  /** Runs f when no other tab is sending. */
  alone: <T>(f: () => Promise<T>) => Promise<T>
  /** Tells the other tabs that the kept answers have changed. */
  tell: () => void
  later: (f: () => void, ms: number) => void
  now: () => number
}

const empty: OutboxState = { waiting: [], refused: [], trouble: '', reason: '', unsafe: false }
const most = 100
const place = (k: Kept) => `${k.visit}/${k.zone}`
const reasonOf = (e: Refused) => e.fields.map((f) => f.reason).join('; ') || e.message

/** What one round of sending has learnt so far. */
interface Round {
  owner: string
  /** places whose answers are held back this time */
  held: Set<string>
  /** one of a batch was at fault: from then on each goes by itself */
  single: boolean
  renewed: boolean
  trouble: Trouble
  reason: string
}

/**
 * Every tap is kept on the device first, an entry an answer, and leaves it when the server has saved it or when the person
 * has put a refusal away. Keys are made here, so that sending twice does nothing twice. Answers of a zone go out in the order
 * of the taps, only in the session of the person who gave them, and from one tab at a time.
 */
export class Outbox {
  private state = empty
  private owner = ''
  private last = 0
  private pause = 3000
  private timed = false
  private sending = false
  private again = false
  private rounds: Promise<void> = Promise.resolve()
  private writes: Promise<void> = Promise.resolve()
  private readonly unwritten = new Map<string, Kept>()
  private readonly listeners = new Set<() => void>()
  private readonly around: Surroundings

  constructor(around: Surroundings) {
    this.around = around
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f)
    return () => this.listeners.delete(f)
  }
  read = (): OutboxState => this.state

  private set(change: Partial<OutboxState>) {
    this.state = { ...this.state, ...change }
    this.listeners.forEach((f) => f())
  }

  /** Somebody has signed in: what they left here on an earlier day goes out now. */
  async open(owner: string): Promise<void> {
    if (owner !== this.owner) {
      this.owner = owner
      this.unwritten.clear()
      this.set({ ...empty, unsafe: this.state.unsafe })
    }
    await this.flush()
  }

  /** Nobody is signed in any more. What waits stays on the device. */
  close(): void {
    this.owner = ''
    this.set({ ...empty, unsafe: this.state.unsafe })
  }

  /** Reads again what is kept: another tab has added, sent or put away something. */
  async reread(): Promise<Kept[]> {
    await this.writes
    const owner = this.owner
    let list: Kept[] = []
    try {
      if (owner) list = await this.around.keeper.of(owner)
    } catch {
      this.set({ unsafe: true })
    }
    if (owner !== this.owner) return []
    const stored = new Set(list.map((k) => k.id))
    list = [...list, ...[...this.unwritten.values()].filter((k) => !stored.has(k.id))]
    this.last = Math.max(this.last, ...list.map((k) => k.at))
    const waiting = list.filter((k) => k.refused === undefined)
    this.set({ waiting, refused: list.filter((k) => k.refused !== undefined), ...(waiting.length ? {} : { trouble: '', reason: '' }) })
    return waiting
  }

  /** Keeps an answer and sends it when it can. */
  put(item: Pick<Kept, 'visit' | 'zone' | 'answer'>): void {
    this.last = Math.max(this.last + 1, this.around.now())
    const kept: Kept = { ...item, id: item.answer.id, owner: this.owner, at: this.last }
    this.set({ waiting: [...this.state.waiting, kept] })
    this.write(kept)
    void this.flush()
  }

  /** The person has read why these were refused, or gives up answers that are held back. */
  async dismiss(items: Kept[]): Promise<void> {
    await this.remove(items.map((k) => k.id))
    await this.reread()
  }

  private write(kept: Kept) {
    this.unwritten.set(kept.id, kept)
    this.writes = this.writes.then(async () => {
      try {
        await this.around.keeper.put(kept)
        this.unwritten.delete(kept.id)
      } catch {
        this.set({ unsafe: true })
      }
      this.around.tell()
    })
  }

  private async remove(ids: string[]) {
    await this.writes
    ids.forEach((id) => this.unwritten.delete(id))
    try {
      await this.around.keeper.drop(ids)
    } catch {
      this.set({ unsafe: true }) // they are in the database of the server; sending them again does nothing
    }
    this.around.tell()
  }

  /** Sends what waits until nothing does or something is in the way; then tries again after a pause. */
  flush(): Promise<void> {
    this.again = true
    if (!this.sending) this.rounds = this.send()
    return this.rounds
  }

  private async send() {
    this.sending = true
    try {
      while (this.again && this.owner) {
        this.again = false
        await this.around.alone(() => this.round())
      }
    } finally {
      this.sending = false
    }
  }

  private async round() {
    const r: Round = { owner: this.owner, held: new Set(), single: false, renewed: false, trouble: '', reason: '' }
    for (;;) {
      const list = (await this.reread()).filter((k) => !r.held.has(place(k)))
      const first = list[0]
      if (!first || r.owner !== this.owner) break
      if (this.around.session() !== r.owner && (r.renewed || !(await this.mine(r)))) break
      const batch = r.single ? [first] : list.filter((k) => place(k) === place(first)).slice(0, most)
      try {
        const scales = await this.around.door.answer(
          first.visit,
          first.zone,
          batch.map((k) => k.answer),
        )
        await this.remove(batch.map((k) => k.id))
        this.around.onScales(first.visit, first.zone, scales)
        this.pause = 3000
      } catch (e) {
        if (!(await this.failed(r, e, batch))) break
      }
    }
    if (r.owner !== this.owner) return
    await this.reread()
    if (this.state.waiting.length === 0) return
    this.set({ trouble: r.trouble, reason: r.reason })
    if (r.trouble !== 'sign-in' && r.trouble !== 'other-person') this.waitAndTry()
  }

  /** Whether the round goes on after this failure. */
  private async failed(r: Round, e: unknown, batch: Kept[]): Promise<boolean> {
    const stop = (trouble: Trouble) => {
      r.trouble = trouble
      return false
    }
    if (!(e instanceof Refused)) return stop('offline')
    if (e.status === 401) return stop('sign-in')
    if (e.status === 403 && !r.renewed) return this.mine(r)
    if (e.status === 400 || e.status === 422 || e.status === 413) {
      const [first] = batch
      if (batch.length > 1) r.single = true
      else if (first) await this.refuse(first, reasonOf(e))
      return true
    }
    if (e.status >= 500 || e.status === 408 || e.status === 425 || e.status === 429) return stop('busy')
    batch.forEach((k) => r.held.add(place(k)))
    r.trouble = 'held'
    r.reason = reasonOf(e)
    return true
  }

  /** Whether the session is that of the person whose answers these are: it may have been renewed, or be another's, since. */
  private async mine(r: Round): Promise<boolean> {
    r.renewed = true
    const owner = await this.around.renew().catch(() => undefined)
    r.trouble = owner === r.owner ? '' : owner === undefined ? 'offline' : owner === '' ? 'sign-in' : 'other-person'
    return owner === r.owner
  }

  private async refuse(item: Kept, reason: string) {
    this.write({ ...item, refused: reason })
    await this.writes
  }

  private waitAndTry() {
    if (this.timed) return
    this.timed = true
    this.around.later(() => {
      this.timed = false
      this.pause = Math.min(60_000, this.pause * 2)
      void this.flush()
    }, this.pause)
  }
}

export function useOutbox(box: Outbox): OutboxState {
  return useSyncExternalStore(box.subscribe, box.read)
}
