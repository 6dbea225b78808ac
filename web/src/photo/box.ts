import { useSyncExternalStore } from 'react'
import { api, got, tokenOwner } from '../api/client'
import { queryClient } from '../api/queries'
import { DevicePhotos, PhotoQueue, type QueueState } from './queue'

/** The device's one queue of photographs. */
export const photos = new PhotoQueue({
  keeper: new DevicePhotos(),
  session: tokenOwner,
  send: (p, picture) =>
    got(
      api.PUT('/visits/{id}/zones/{zone}/photos/{photo}', {
        params: { path: { id: p.visit, zone: p.zone, photo: p.id } },
        body: { ...p.body, picture },
      }),
    ),
  onSent: (p) => queryClient.invalidateQueries({ predicate: (q) => q.queryKey[0] === 'photos' && q.queryKey.includes(p.zone) }),
})
addEventListener('online', () => void photos.flush())
setInterval(() => {
  if (photos.read().waiting.length > 0) void photos.flush()
}, 20_000)

export const usePhotos = (): QueueState => useSyncExternalStore(photos.subscribe, photos.read)
