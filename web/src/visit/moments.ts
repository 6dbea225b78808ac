import { useSyncExternalStore } from 'react'
import { api, got, Refused } from '../api/client'

/** An arrival or a leaving that could not be told yet: whose, and when it really was. */
export interface Moment {
  owner: string
  visit: string
  what: 'arrive' | 'leave'
  at: string
}

const key = 'hodos-moments'

function isMoment(x: unknown): x is Moment {
  const m = (x ?? {}) as Partial<Record<keyof Moment, unknown>>
  const texts = [m.owner, m.visit, m.at].every((t) => typeof t === 'string')
  return texts && (m.what === 'arrive' || m.what === 'leave') && !isNaN(Date.parse(String(m.at)))
}

/** How one is told to the server. */
export type Tell = (m: Moment) => Promise<unknown>

const tell: Tell = ({ visit, what, at }) =>
  got(
    what === 'arrive'
      ? api.POST('/visits/{id}/arrive', { params: { path: { id: visit } }, body: { at } })
      : api.POST('/visits/{id}/leave', { params: { path: { id: visit } }, body: { at } }),
  )

/** Arrivals and leavings made without a connection, kept on the device until they are told. */
export class Moments {
  private list: Moment[]
  private readonly store: Pick<Storage, 'getItem' | 'setItem'>
  private readonly tell: Tell
  private readonly listeners = new Set<() => void>()
  private sending = false

  constructor(store: Pick<Storage, 'getItem' | 'setItem'>, how: Tell = tell) {
    this.store = store
    this.tell = how
    let kept: unknown = []
    try {
      kept = JSON.parse(store.getItem(key) ?? '[]')
    } catch {
      // what cannot be read was not written here
    }
    this.list = Array.isArray(kept) ? kept.filter(isMoment) : []
  }

  subscribe = (f: () => void) => {
    this.listeners.add(f)
    return () => this.listeners.delete(f)
  }
  read = (): Moment[] => this.list

  private set(list: Moment[]) {
    this.list = list
    try {
      this.store.setItem(key, JSON.stringify(list))
    } catch {
      // a full device keeps it in the page alone
    }
    this.listeners.forEach((f) => f())
  }

  keep(m: Moment): void {
    this.set([...this.list, m])
  }

  /**
   * Tells what waits of a person, in order: arrivals at once, leavings only once no answer of theirs waits, since leaving closes the visit.
   * What the server will not take is given up: somebody has told it meanwhile. True when anything was told.
   */
  async send(owner: string, answersWait: boolean): Promise<boolean> {
    if (this.sending || owner === '') return false
    this.sending = true
    let told = false
    try {
      for (const m of this.list.filter((x) => x.owner === owner && (x.what === 'arrive' || !answersWait))) {
        try {
          await this.tell(m)
        } catch (e) {
          if (!(e instanceof Refused) || e.status === 401 || e.status === 403 || e.status >= 500) return told
        }
        told = true
        this.set(this.list.filter((x) => x !== m))
      }
    } finally {
      this.sending = false
    }
    return told
  }
}

export const moments: Moments = new Moments(
  typeof localStorage === 'undefined' ? { getItem: () => null, setItem: () => undefined } : localStorage,
)
export const useMoments = (): Moment[] => useSyncExternalStore(moments.subscribe, moments.read)
