import { openDB, type IDBPDatabase } from 'idb'
import { Refused } from '../api/client'

/** Something that was made on this device and is not with the server yet. */
export interface Waiting {
  id: string
  /** firm and person: nobody else sends it */
  owner: string
  at: number
  /** why the server would not take it */
  refused?: string
}

/** Where what waits lies; a device that keeps nothing holds it as long as the page stands. */
export interface QueueKeeper<T extends Waiting> {
  of: (owner: string) => Promise<T[]>
  put: (x: T) => Promise<void>
  remove: (id: string) => Promise<void>
}

/** The device's own database for one kind of thing: one store, in which everything lies under its key and its owner. */
export class DeviceQueue<T extends Waiting> implements QueueKeeper<T> {
  private readonly db: Promise<IDBPDatabase>
  private readonly store: string
  constructor(name: string, store: string) {
    this.store = store
    this.db = openDB(name, 1, {
      upgrade(db) {
        db.createObjectStore(store, { keyPath: 'id' }).createIndex('owner', 'owner')
      },
    })
    this.db.catch(() => undefined)
  }
  of = async (owner: string) => (await (await this.db).getAllFromIndex(this.store, 'owner', owner)) as T[]
  put = async (x: T) => {
    await (await this.db).put(this.store, x)
  }
  remove = async (id: string) => {
    await (await this.db).delete(this.store, id)
  }
}

export interface QueueState<T extends Waiting> {
  waiting: T[]
  /** this device has no room for them: they are gone with the page */
  unsafe: boolean
  offline: boolean
}

interface Around<T extends Waiting> {
  keeper: QueueKeeper<T>
  /** Whose page this is, with or without a connection; the empty string when nobody is signed in. */
  owner: () => string
  /** Whose token the next request would carry; the empty string when nobody's. */
  session: () => string
  /** Asks the server whose session this is now and takes its token. */
  renew: () => Promise<string>
  send: (x: T) => Promise<unknown>
  onSent: (x: T) => Promise<unknown>
}

/** What the server says no to for now: it is asked again later. */
const later = (e: unknown) => !(e instanceof Refused) || e.status === 401 || e.status === 403 || e.status === 429 || e.status >= 500

/** Things wait on the device until the server has them; they go out one at a time, the oldest first, in the session of who made them. */
export class Queue<T extends Waiting> {
  private state: QueueState<T> = { waiting: [], unsafe: false, offline: false }
  private readonly unkept = new Map<string, T>()
  private readonly listeners = new Set<() => void>()
  private round: Promise<void> | undefined
  /** the server did not take the session's token the last time */
  private doubtful = false
  private readonly around: Around<T>
  constructor(around: Around<T>) {
    this.around = around
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f)
    return () => this.listeners.delete(f)
  }
  read = (): QueueState<T> => this.state
  private set(change: Partial<QueueState<T>>) {
    this.state = { ...this.state, ...change }
    this.listeners.forEach((f) => f())
  }

  /** Keeps a thing and sends it when it can. */
  async put(x: Omit<T, 'owner' | 'at'>): Promise<void> {
    await this.keep({ ...x, owner: this.around.owner(), at: Date.now() } as T)
    await this.reread()
    void this.flush()
  }

  private async keep(x: T): Promise<void> {
    try {
      await this.around.keeper.put(x)
    } catch {
      this.unkept.set(x.id, x)
      this.set({ unsafe: true })
    }
  }

  /** Reads again what waits of whoever is signed in. */
  async reread(): Promise<void> {
    const owner = this.around.owner()
    let list: T[] = []
    try {
      if (owner) list = await this.around.keeper.of(owner)
    } catch {
      this.set({ unsafe: true })
    }
    list = [...list, ...[...this.unkept.values()].filter((x) => x.owner === owner)]
    this.set({ waiting: list.sort((a, b) => a.at - b.at) })
  }

  /** The person has read why it was refused, or does not want it any more. */
  async dismiss(id: string): Promise<void> {
    this.unkept.delete(id)
    await this.around.keeper.remove(id).catch(() => undefined)
    await this.reread()
  }

  /** Sends what waits; called again while it is under way it joins in. */
  flush = (): Promise<void> => (this.round ??= this.sendAll().finally(() => (this.round = undefined)))

  private async sendAll(): Promise<void> {
    await this.reread()
    for (let x = this.next(); x; x = this.next()) {
      if (!(await this.mine(x))) return
      try {
        await this.around.send(x)
        this.set({ offline: false })
      } catch (e) {
        if (later(e)) {
          this.doubtful = e instanceof Refused && e.status < 429
          this.set({ offline: !(e instanceof Refused) })
          return
        }
        const no = e as Refused
        await this.keep({ ...x, refused: no.fields.map((f) => f.reason).join('; ') || no.message })
        await this.reread()
        continue
      }
      await this.around.onSent(x)
      await this.dismiss(x.id)
    }
  }

  /** Whether the session is that of whoever made it. A page that was opened without a connection has no token yet. */
  private async mine(x: T): Promise<boolean> {
    if (this.around.session() === x.owner && !this.doubtful) return true
    const owner = await this.around.renew().catch(() => undefined)
    this.set({ offline: owner === undefined })
    this.doubtful &&= owner !== x.owner
    return owner === x.owner
  }

  private next(): T | undefined {
    return this.state.waiting.find((x) => x.refused === undefined)
  }
}
