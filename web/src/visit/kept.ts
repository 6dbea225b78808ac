import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import type { Schemas } from '../api/client'

/** One answer on its way: whose it is, where it belongs, what it says, and what came of sending it. */
export interface Kept {
  id: string
  /** firm and person who gave it; nobody else's session sends it */
  owner: string
  /** counts up on this device: answers go out in the order of the taps */
  at: number
  visit: string
  zone: string
  answer: Schemas['NewAnswer']
  /** why the server will not take it; it stays readable until the person has put it away */
  refused?: string
}

/** Where a device keeps its answers. Writing resolves when they would survive a reload. */
export interface Keeper {
  of(owner: string): Promise<Kept[]>
  put(item: Kept): Promise<void>
  drop(ids: string[]): Promise<void>
}

interface Device extends DBSchema {
  answers: { key: string; value: Kept; indexes: { owner: string } }
}

/** An entry an answer in the browser's own database. */
export class DeviceKeeper implements Keeper {
  private readonly db: Promise<IDBPDatabase<Device>>
  constructor(name = 'hodos-device') {
    this.db = openDB<Device>(name, 1, {
      upgrade(db) {
        db.createObjectStore('answers', { keyPath: 'id' }).createIndex('owner', 'owner')
      },
    })
    this.db.catch(() => undefined) // told to whoever asks next
  }
  async of(owner: string): Promise<Kept[]> {
    const list = await (await this.db).getAllFromIndex('answers', 'owner', owner)
    return list.sort((a, b) => a.at - b.at || a.id.localeCompare(b.id))
  }
  async put(item: Kept): Promise<void> {
    await (await this.db).put('answers', item)
  }
  async drop(ids: string[]): Promise<void> {
    const tx = (await this.db).transaction('answers', 'readwrite')
    await Promise.all([...ids.map((id) => tx.store.delete(id)), tx.done])
  }
}
