import { useSyncExternalStore } from 'react'
import { api, got, Refused, tokenOwner, type Schemas } from '../api/client'
import { ownerHere, queryClient, renewMe } from '../api/queries'
import { DeviceQueue, Queue, type QueueState, type Waiting } from './queue'

/** What is written on a lawn beside answers and pictures. */
export type Writing =
  | { what: 'note'; zone: string; body: Schemas['NewNote'] }
  | { what: 'measure'; zone: string; visit: string; body: Schemas['Measure'] }
  | { what: 'record'; zone: string; visit: string; body: Schemas['Record'] }

/** One of them that waits. Its key was made here, so that sending it twice writes it once. */
export type WaitingWrite = Waiting & Writing

/** What the server says to each. */
interface Told {
  note: Schemas['Note']
  measure: Schemas['Recovery']
  record: Schemas['Recorded']
}

/** Tells the server one of them. */
function tell(id: string, w: Writing): Promise<Told[Writing['what']]> {
  switch (w.what) {
    case 'note':
      return got(api.PUT('/zones/{id}/notes/{note}', { params: { path: { id: w.zone, note: id } }, body: w.body }))
    case 'measure':
      return got(api.POST('/visits/{id}/measures', { params: { path: { id: w.visit } }, body: w.body }))
    case 'record':
      return got(api.POST('/visits/{id}/records', { params: { path: { id: w.visit } }, body: w.body }))
  }
}

/** What changes where one of them has been written: everything that was said of the firm's lawns. */
const anew = () => queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] !== 'vocabulary' && q.queryKey[0] !== 'welcome' })

/** The device's one queue of notes, measurements and records. */
export const writes = new Queue<WaitingWrite>({
  keeper: new DeviceQueue('hodos-writes', 'writes'),
  owner: ownerHere,
  session: tokenOwner,
  renew: renewMe,
  send: (w) => tell(w.id, w),
  onSent: anew,
})

/**
 * Writes one of them: told to the server, which answers; or, where it cannot be reached, kept on the device as later says it (a day that
 * goes without saying today has to be said then). A refusal is thrown.
 */
export async function write<W extends Writing>(id: string, w: W, later: W = w): Promise<Told[W['what']] | 'kept'> {
  let told
  try {
    told = (await tell(id, w)) as Told[W['what']]
  } catch (e) {
    if (e instanceof Refused) throw e
    await writes.put({ id, ...later })
    return 'kept'
  }
  await anew()
  return told
}

export const useWrites = (): QueueState<WaitingWrite> => useSyncExternalStore(writes.subscribe, writes.read)

addEventListener('online', () => void writes.flush())
setInterval(() => {
  if (writes.read().waiting.some((w) => w.refused === undefined)) void writes.flush()
}, 20_000)
