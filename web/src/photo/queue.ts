import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { Refused, type Schemas } from '../api/client'

/** A photograph that was taken and is not with the server yet. */
export interface WaitingPhoto {
  id: string
  /** firm and person: nobody else sends it */
  owner: string
  visit: string
  zone: string
  at: number
  body: Omit<Schemas['NewPhoto'], 'picture'>
  jpeg: Blob
  /** why the server would not take it */
  refused?: string
}

interface Device extends DBSchema {
  photos: { key: string; value: WaitingPhoto; indexes: { owner: string } }
}

/** Where waiting photographs lie; a device that keeps nothing holds them as long as the page stands. */
export interface PhotoKeeper {
  of: (owner: string) => Promise<WaitingPhoto[]>
  put: (p: WaitingPhoto) => Promise<void>
  remove: (id: string) => Promise<void>
}

export class DevicePhotos implements PhotoKeeper {
  private readonly db: Promise<IDBPDatabase<Device>>
  constructor(name = 'hodos-photos') {
    this.db = openDB<Device>(name, 1, {
      upgrade(db) {
        db.createObjectStore('photos', { keyPath: 'id' }).createIndex('owner', 'owner')
      },
    })
    this.db.catch(() => undefined)
  }
  of = async (owner: string) => (await this.db).getAllFromIndex('photos', 'owner', owner)
  put = async (p: WaitingPhoto) => {
    await (await this.db).put('photos', p)
  }
  remove = async (id: string) => {
    await (await this.db).delete('photos', id)
  }
}

export interface QueueState {
  waiting: WaitingPhoto[]
  /** this device has no room for them: they are gone with the page */
  unsafe: boolean
  offline: boolean
}

interface Around {
  keeper: PhotoKeeper
  session: () => string
  send: (p: WaitingPhoto, picture: string) => Promise<unknown>
  onSent: (p: WaitingPhoto) => Promise<unknown>
}

/**
 * Photographs wait on the device until the server has them; they go out one at a time, the oldest first, in the session of who took
 * them.
 */
export class PhotoQueue {
  private state: QueueState = { waiting: [], unsafe: false, offline: false }
  private readonly unkept = new Map<string, WaitingPhoto>()
  private readonly listeners = new Set<() => void>()
  private round: Promise<void> | undefined
  private readonly around: Around
  constructor(around: Around) {
    this.around = around
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f)
    return () => this.listeners.delete(f)
  }
  read = (): QueueState => this.state
  private set(change: Partial<QueueState>) {
    this.state = { ...this.state, ...change }
    this.listeners.forEach((f) => f())
  }

  /** Keeps a photograph and sends it when it can. */
  async put(p: Omit<WaitingPhoto, 'owner' | 'at'>): Promise<void> {
    const kept: WaitingPhoto = { ...p, owner: this.around.session(), at: Date.now() }
    await this.keep(kept)
    await this.reread()
    void this.flush()
  }

  private async keep(p: WaitingPhoto): Promise<void> {
    try {
      await this.around.keeper.put(p)
    } catch {
      this.unkept.set(p.id, p)
      this.set({ unsafe: true })
    }
  }

  /** Reads again what waits of whoever is signed in. */
  async reread(): Promise<void> {
    const owner = this.around.session()
    let list: WaitingPhoto[] = []
    try {
      if (owner) list = await this.around.keeper.of(owner)
    } catch {
      this.set({ unsafe: true })
    }
    list = [...list, ...[...this.unkept.values()].filter((p) => p.owner === owner)]
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
    for (let p = this.next(); p; p = this.next()) {
      if (p.owner !== this.around.session()) return
      try {
        await this.around.send(p, await base64(p.jpeg))
        this.set({ offline: false })
      } catch (e) {
        if (!(e instanceof Refused) || e.status === 401 || e.status === 403 || e.status === 429 || e.status >= 500) {
          this.set({ offline: !(e instanceof Refused) })
          return // later
        }
        const refused = e.fields.map((f) => f.reason).join('; ') || e.message
        await this.keep({ ...p, refused })
        await this.reread()
        continue
      }
      await this.around.onSent(p)
      await this.dismiss(p.id)
    }
  }

  private next(): WaitingPhoto | undefined {
    return this.state.waiting.find((p) => p.refused === undefined)
  }
}

/** A file as text in base 64. */
export async function base64(b: Blob): Promise<string> {
  const bytes = new Uint8Array(await b.arrayBuffer())
  let text = ''
  for (let i = 0; i < bytes.length; i += 0x8000) text += String.fromCharCode(...bytes.subarray(i, i + 0x8000))
  return btoa(text)
}
