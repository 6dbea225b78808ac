import { useSyncExternalStore } from 'react'
import { api, got, tokenOwner, type Schemas } from '../api/client'
import { ownerHere, queryClient, renewMe } from '../api/queries'
import { base64 } from '../offline/base64'
import { DeviceQueue, Queue, type QueueState, type Waiting } from '../offline/queue'

/** A photograph that was taken and is not with the server yet. */
export interface WaitingPhoto extends Waiting {
  visit: string
  zone: string
  body: Omit<Schemas['NewPhoto'], 'picture'>
  jpeg: Blob
}

/** The device's one queue of photographs. */
export const photos = new Queue<WaitingPhoto>({
  keeper: new DeviceQueue('hodos-photos', 'photos'),
  owner: ownerHere,
  session: tokenOwner,
  renew: renewMe,
  send: async (p) =>
    got(
      api.PUT('/visits/{id}/zones/{zone}/photos/{photo}', {
        params: { path: { id: p.visit, zone: p.zone, photo: p.id } },
        body: { ...p.body, picture: await base64(p.jpeg) },
      }),
    ),
  onSent: (p) => queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'photos' && q.queryKey.includes(p.zone) }),
})
addEventListener('online', () => void photos.flush())
setInterval(() => {
  if (photos.read().waiting.length > 0) void photos.flush()
}, 20_000)

export const usePhotos = (): QueueState<WaitingPhoto> => useSyncExternalStore(photos.subscribe, photos.read)
